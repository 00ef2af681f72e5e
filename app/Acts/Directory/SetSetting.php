<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Role;
use App\Models\Setting;
use App\Models\Site;
use App\Queries\Inherited;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\NotUnderstood;

/** A value is set at one layer and flows down from there, or an override is given back. */
final readonly class SetSetting extends Act
{
    private const LISTED = 12;

    public function __construct(
        #[Field(Kind::Choice, 'Layer', 'Organisation, site or prefix', choices: ['organisation', 'site', 'prefix'])]
        public string $layer,
        #[Field(Kind::Line, 'Setting', most: 30)]
        public string $key,
        #[Field(Kind::Line, 'Object', 'Id of the site or prefix; blank for the organisation', most: 26)]
        public string $object = '',
        #[Field(Kind::Text, 'Value', 'One or several, apart by blanks or commas; blank gives the override back', most: 4000)]
        public string $value = '',
    ) {
    }

    public function title(): string
    {
        $what = lcfirst(Inherited::KEYS[$this->key][0] ?? 'a setting');
        $where = match ($this->layer) {
            'site' => Site::query()->find($this->object)->name ?? 'a site',
            'prefix' => Prefix::query()->find($this->object)?->line() ?? 'a prefix',
            default => 'the organisation',
        };

        return trim($this->value) === '' ? "Give back $what of $where" : "Set $what of $where";
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return match ($this->layer) {
            'site' => at('directory.site', $this->object),
            'prefix' => at('plan.prefix', $this->object),
            default => at('directory.settings'),
        };
    }

    public function apply(Ledger $ledger): void
    {
        if (! isset(Inherited::KEYS[$this->key]) || ! in_array($this->layer, ['organisation', 'site', 'prefix'], true)) {
            $ledger->refuse('no-setting', "There is no setting \"$this->key\"", 'Resolvers, domain, search and gateway are.', null, 'key');
        }
        $object = $this->layer === 'organisation' ? '' : $this->object;
        if (
            $this->layer === 'site' && Site::query()->whereKey($object)->doesntExist()
                || $this->layer === 'prefix' && Prefix::query()->whereKey($object)->doesntExist()
        ) {
            $ledger->refuse('gone', "The $this->layer is not there any more", field: 'object');
        }
        $row = Setting::query()->where('layer', $this->layer)->where('layer_id', $object)->where('key', $this->key)
            ->lockForUpdate()->first();
        $value = $this->read($ledger);
        if ($value === []) {
            $row === null ? $ledger->refuse('nothing-set', 'Nothing is set here to give back', field: 'value') : $row->delete();
        } else {
            $row ??= new Setting(['layer' => $this->layer, 'layer_id' => $object, 'key' => $this->key]);
            $row->value = $value;
            $row->save();
        }
        $this->sayReach($ledger, $object);
    }

    /** Every subnet that the change reaches, and those that keep their own. */
    private function sayReach(Ledger $ledger, string $object): void
    {
        ['reached' => $reached, 'keep' => $keep] = (new Inherited)->reach($this->layer, $object, $this->key);
        $ledger->later(
            count($reached) === 0
                ? 'No subnet takes its value from here'
                : count($reached)
                    .(count($reached) === 1 ? ' subnet takes' : ' subnets take')
                    .' its value from here: '
                    .self::some(array_map(fn (Prefix $p): string => $p->line(), $reached)),
        );
        if ($keep !== []) {
            $ledger->later(
                count($keep)
                    .(count($keep) === 1 ? ' keeps its own: ' : ' keep their own: ')
                    .self::some(array_map(fn (array $k): string => "{$k[0]->line()} (from {$k[1]})", $keep)),
            );
        }
        $ledger->made += [
            'reached' => array_map(fn (Prefix $p): string => $p->id, $reached),
            'keep' => array_map(fn (array $k): string => $k[0]->id, $keep),
        ];
        if (Inherited::KEYS[$this->key][1] !== null && $reached !== []) {
            $ledger->later('Their scopes without a value of their own differ from what runs until they are shipped');
        }
    }

    /** @param  list<string>  $lines */
    private static function some(array $lines): string
    {
        return implode('; ', array_slice($lines, 0, self::LISTED))
            .(count($lines) > self::LISTED ? '; and '.(count($lines) - self::LISTED).' more' : '');
    }

    /** @return list<string> */
    private function read(Ledger $ledger): array
    {
        $words = preg_split('/[\s,]+/', trim($this->value), -1, PREG_SPLIT_NO_EMPTY) ?: [];
        if ($this->key === 'gateway') {
            return $words === []
                || in_array($words, [['first'], ['last'], ['none']], true)
                    ? $words
                    : $ledger->refuse(
                        'bad-habit',
                        'The habit is first, last or none',
                        'First and last are usable addresses of the subnet.',
                        null,
                        'value',
                    );
        }
        if ($this->key === 'domain' && count($words) > 1) {
            $ledger->refuse('one-domain', 'One domain; further ones are search suffixes', standard: 'RFC 2132 §3.17', field: 'value');
        }
        try {
            return array_map(
                fn (string $w): string => $this->key === 'resolvers'
                    ? (string) Address::parse($w)
                    : rtrim((string) Name::parse(rtrim($w, '.').'.')->lower(), '.'),
                $words,
            );
        } catch (NotUnderstood|Malformed $e) {
            $ledger->refuse('bad-value', $e->getMessage(), field: 'value');
        }
    }
}
