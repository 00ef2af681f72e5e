<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Device;
use App\Models\Layer2Domain;
use App\Models\Model;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Scope;
use App\Models\Server;
use App\Models\Site;
use App\Models\Space;
use App\Models\Team;
use App\Models\Tenant;
use App\Models\View;
use App\Models\Vlan;
use App\Models\Zone;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Database\Eloquent\Builder;

/**
 * Objects by what people know of them: a prefix, a VLAN's number, a name. Offers while one types, and understands what was typed; what
 * means several is told with its candidates. Limited to what the person may see.
 */
final readonly class Picks
{
    private const OFFERED = 12;

    /** @var array<class-string<Model>, list<string>> kind → columns that hold its name */
    private const NAMES = [
        Site::class => ['sites.name'], Tenant::class => ['tenants.name'], Device::class => ['devices.name'],
        Server::class => ['servers.name'], Team::class => ['teams.name'],
        View::class => ['views.name'], Space::class => ['spaces.name'], Layer2Domain::class => ['layer2_domains.name'],
        Person::class => ['people.sign_in', 'people.name'], Scope::class => ['scopes.name'], Prefix::class => ['prefixes.name'],
        Vlan::class => ['vlans.name'], Zone::class => ['zones.name'],
    ];

    public function __construct(private Reach $reach)
    {
    }

    /** @param  class-string<Model>  $class */
    public static function offers(string $class): bool
    {
        return isset(self::NAMES[$class]);
    }

    /**
     * @param  string  $kind  the word of a kind, as history has it
     * @param  string  $only  of VLANs the id of their domain; "leasable": subnets that a scope could be made on; "forward": zones that
     *     hosts have names in
     * @return list<array{id: string, label: string, hint: string}>
     */
    public function like(string $kind, string $text, string $only = ''): array
    {
        $query = $this->reach->ofNoun($kind);
        $class = $query === null ? null : $query->getModel()::class;
        if ($query === null || ! isset(self::NAMES[$class])) {
            return [];
        }
        if ($class === Vlan::class && $only !== '') {
            $query->where('vlans.domain_id', $only);
        }
        if ($only === 'leasable') {
            $query->where('kind', PrefixKind::Subnet)->whereRaw('length < IF(family = 4, 31, 127)')
                ->whereNotIn('id', Scope::query()->select('prefix_id'));
        }
        if ($only === 'forward') {
            $query->where('zones.name', 'not like', '%.arpa.');
        }
        $this->narrow($query, $class, trim($text), false);
        $rows = $query->with(self::with($class))->limit(self::OFFERED)->get();

        return array_values(
            $rows->map(fn (Model $m): array => ['id' => (string) $m->id, 'label' => self::label($m), 'hint' => self::hint($m)])->all(),
        );
    }

    /**
     * What a text means.
     *
     * @param  class-string<Model>  $class
     * @return list<array{id: string, label: string}> one when it is understood, several when it is not clear, none when there is nothing
     */
    public function meant(string $class, string $text): array
    {
        $query = $this->reach->ofNoun($class::noun());
        if ($query === null || ! isset(self::NAMES[$class])) {
            return [];
        }
        $this->narrow($query, $class, trim($text), true);
        $rows = $query->with(self::with($class))->limit(self::OFFERED)->get();

        return array_values(
            $rows->map(fn (Model $m): array => [
                'id' => (string) $m->id, 'label' => trim(self::label($m).' '.self::hint($m)),
            ])->all(),
        );
    }

    public static function label(Model $model): string
    {
        return match (true) {
            $model instanceof Prefix => trim("{$model->prefix()} $model->name"),
            $model instanceof Vlan => "$model->number $model->name",
            $model instanceof Zone => $model->title(),
            $model instanceof Person => "$model->name ($model->sign_in)",
            default => is_string($model->getAttribute('name')) ? $model->getAttribute('name') : '',
        };
    }

    private static function hint(Model $model): string
    {
        return match (true) {
            $model instanceof Zone => $model->view->name,
            $model instanceof Vlan => $model->domain->name,
            $model instanceof Prefix => implode(', ', array_filter([$model->kind->value, $model->site->name ?? null])),
            $model instanceof Scope => (string) $model->prefix->prefix(),
            $model instanceof Server => $model->kind->value,
            $model instanceof Site => $model->parent->name ?? '',
            default => '',
        };
    }

    /** @return list<string> */
    private static function with(string $class): array
    {
        return match ($class) {
            Zone::class => ['view'], Vlan::class => ['domain'], Prefix::class => ['site'], Scope::class => ['prefix'],
            Site::class => ['parent'],
            default => [],
        };
    }

    /**
     * @param  Builder<covariant Model>  $query
     * @param  class-string<Model>  $class
     * @param  bool  $exact  the very one is meant; else also those that begin so
     */
    private function narrow(Builder $query, string $class, string $text, bool $exact): void
    {
        // No name holds bytes that are no text, nor a name of DNS letters outside of ASCII.
        if (! mb_check_encoding($text, 'UTF-8') || $class === Zone::class && preg_match('/[^\x20-\x7e]/', $text) === 1) {
            $query->whereRaw('1 = 0');

            return;
        }
        $net = $class === Prefix::class ? Net::tryParse($text) : null;
        if ($net !== null) {
            $query->where('family', $net->first->family->value)->orderBy('length');
            if ($exact) {
                $query->where('first', $net->first->bytes)->where('length', $net->length);
            } else {
                $query->whereBetween('first', [$net->first->bytes, $net->last()->bytes])->where('length', '>=', $net->length);
            }

            return;
        }
        if ($class === Vlan::class && preg_match('/\A(\d{1,4})\b\s*(.*)\z/', $text, $m) === 1) {
            $query->where('vlans.number', (int) $m[1]);
            if ($m[2] !== '') {
                $query->where('vlans.name', 'like', FilterWords::start($m[2]));
            }
            $query->orderBy('vlans.number');

            return;
        }
        $this->byName($query, $class, $class === Zone::class ? self::zone($text, $exact) : $text, $exact);
    }

    /**
     * @param  Builder<covariant Model>  $query
     * @param  class-string<Model>  $class
     */
    private function byName(Builder $query, string $class, string $text, bool $exact): void
    {
        if ($text !== '') {
            $query->where(function (Builder $any) use ($class, $text, $exact): void {
                foreach (self::NAMES[$class] as $column) {
                    $exact ? $any->orWhere($column, $text) : $any->orWhere($column, 'like', FilterWords::start($text));
                }
            });
        }
        $query->orderBy(self::NAMES[$class][0]);
        if ($class === Vlan::class) {
            $query->orderBy('vlans.number');
        }
    }

    /** A zone as it is stored: with its dot, in lower case; of a prefix its reverse zone. */
    private static function zone(string $text, bool $exact): string
    {
        try {
            return $text === '' ? '' : ($exact ? (string) Name::parse(rtrim($text, '.').'.')->lower() : strtolower($text));
        } catch (Malformed) {
            return $text;
        }
    }
}
