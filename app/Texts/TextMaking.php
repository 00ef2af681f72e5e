<?php

declare(strict_types=1);

namespace App\Texts;

use App\Acts\Engine\Acts;
use App\Acts\Engine\Outcome;
use App\Acts\Texts\KeepText;
use App\Api\Collections;
use App\Api\Included;
use App\Api\Known;
use App\Api\Problem;
use App\Domain\Texts\DataText;
use App\Domain\Texts\TemplateEngine;
use App\Domain\Texts\TextFault;
use App\Models\DataLayer;
use App\Models\Device;
use App\Models\MadeText;
use App\Models\Model;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Scope;
use App\Models\Site;
use App\Models\Template;
use App\Models\TemplateData;
use App\Models\Vlan;
use App\Queries\Inherited;
use App\Queries\Reach;
use HarborPost\Core\Planning\LayeredData;

/** Makes texts: what a template sees of an object is what programs see of it, within the reach of who asks. */
final class TextMaking
{
    /** Objects that "list" gives, and that one text may read. */
    private const LIST = 1000;

    private const OBJECTS = 20_000;

    private int $read = 0;

    private function __construct(private readonly Reach $reach)
    {
    }

    /** @throws TextFault in words for who wrote the template */
    public static function of(Template $template, Model $object, Reach $reach): string
    {
        return (new self($reach))->make($template, $object);
    }

    /** Its own data, with where each value comes from. */
    public static function dataOf(Model $object): LayeredData
    {
        $layers = [];
        foreach (self::places($object) as [$layer, $at]) {
            $row = TemplateData::query()->where('layer', $layer)->where('at', $at)->first();
            if ($row !== null) {
                $layers[] = [$row->place(), DataText::read($row->text)];
            }
        }

        return LayeredData::of($layers);
    }

    /** Makes a text and keeps it; what stands stays where it cannot be made. */
    public static function keep(Acts $acts, Template $template, Model $object, Person $person, bool $asPerson): Outcome
    {
        try {
            $text = self::of($template, $object, Reach::of($person));
            $act = new KeepText($template->id, (string) $object->getKey(), $object->line(), $text);
        } catch (TextFault $e) {
            $act = new KeepText($template->id, (string) $object->getKey(), $object->line(), '', $e->getMessage());
        }

        return $acts->commit($asPerson ? $person : null, [$act]);
    }

    /** @return array{made: int, changed: int, failed: int} */
    public static function again(Acts $acts): array
    {
        $told = ['made' => 0, 'changed' => 0, 'failed' => 0];
        foreach (MadeText::query()->with('template.keeper')->orderBy('looked_at')->orderBy('id')->lazy(50) as $text) {
            $template = $text->template;
            $object = $template->of->model()::query()->find($text->object_id);
            $why = match (true) {
                $template->keeper === null || ! $template->keeper->active => 'who wrote the template is here no more; write it anew',
                $object === null => 'what it is made of is gone',
                default => null,
            };
            if ($why !== null || $object === null || $template->keeper === null) {
                $acts->commit(null, [new KeepText($template->id, $text->object_id, $text->title, '', (string) $why)]);
                $told['failed']++;

                continue;
            }
            self::keep($acts, $template, $object, $template->keeper, false);
            $now = $text->fresh();
            $told['made']++;
            $told['changed'] += $now?->digest === $text->digest ? 0 : 1;
            $told['failed'] += $now === null || $now->trouble === '' ? 0 : 1;
        }

        return $told;
    }

    private function make(Template $template, Model $object): string
    {
        $collection = (string) array_search($object::class, Collections::OF, true);
        try {
            $data = self::dataOf($object)->data;
            $it = $this->told($collection, [$object])[0];
        } catch (Problem $e) {
            throw new TextFault($e->words());
        }

        $values = ['it' => $it, 'data' => $data, 'settings' => self::settings($object)];
        $text = rtrim(TemplateEngine::render($template->body, $values, $this->list(...), $this->one(...)), "\n");

        // What reads it line by line wants the last one ended too.
        return $text === '' ? '' : "$text\n";
    }

    /**
     * @param  array<mixed>  $where  filters of the list, as programs have them
     * @return list<array<string, mixed>>
     */
    private function list(string $collection, array $where): array
    {
        $query = $this->query($collection);
        try {
            Collections::filter($collection, $query, array_map(
                static fn (mixed $v): string => is_scalar($v) ? (string) $v : '',
                array_filter($where, is_string(...), ARRAY_FILTER_USE_KEY),
            ));
        } catch (Problem $e) {
            throw new TextFault($e->words());
        }
        $rows = $query->with(Collections::with($collection))->orderBy(...self::order($collection))
            ->orderBy($query->getModel()->getQualifiedKeyName())->limit(self::LIST + 1)->get()->all();
        if (count($rows) > self::LIST) {
            throw new TextFault('There are more than '.number_format(self::LIST)." $collection of these: narrow them by a filter.");
        }

        return $this->told($collection, array_values($rows));
    }

    /** @return ?array<string, mixed> */
    private function one(string $collection, ?string $known): ?array
    {
        $this->query($collection);
        try {
            $row = Known::row($collection, (string) $known, $this->reach);
        } catch (Problem $e) {
            throw new TextFault($e->words());
        }

        return $row === null ? null : $this->told($collection, [$row])[0];
    }

    /** @return \Illuminate\Database\Eloquent\Builder<covariant Model> */
    private function query(string $collection): \Illuminate\Database\Eloquent\Builder
    {
        return Collections::query($collection, $this->reach)
            ?? throw new TextFault("There is no list of $collection; there are ".implode(', ', array_keys(Collections::OF)).'.');
    }

    /**
     * Objects with what they name, as "site" or "vlan".
     *
     * @param  non-empty-list<Model>|list<Model>  $rows
     * @return ($rows is non-empty-list<Model> ? non-empty-list<array<string, mixed>> : list<array<string, mixed>>)
     */
    private function told(string $collection, array $rows): array
    {
        $this->read += count($rows);
        if ($this->read > self::OBJECTS) {
            throw new TextFault('The template reads more than '.number_format(self::OBJECTS).' objects.');
        }
        $named = Included::of($collection, collect($rows), Included::names($collection), $this->reach);

        return array_map(
            static fn (Model $row): array => ($named[(string) $row->getKey()] ?? []) + Collections::object($collection, $row),
            $rows,
        );
    }

    /** @return array{string, string} the order in which people expect a list */
    private static function order(string $collection): array
    {
        return [match ($collection) {
            'addresses' => 'addresses.address', 'prefixes' => 'prefixes.first', 'leases' => 'leases.address',
            'records' => 'records.owner_key',
            'vlans' => 'vlans.number', 'reservations' => 'reservations.address', 'option-definitions' => 'option_definitions.code',
            default => (new (Collections::OF[$collection]))->getTable().'.name',
        }, 'asc'];
    }

    /** @return array<string, list<string>> settings as they are inherited there */
    private static function settings(Model $object): array
    {
        $inherited = app(Inherited::class);
        $prefix = match (true) {
            $object instanceof Prefix => $object,
            $object instanceof Scope => $object->prefix,
            default => null,
        };
        $site = self::siteOf($object);
        $told = match (true) {
            $prefix !== null => $inherited->of($prefix),
            $site !== null => $inherited->ofSite($site->id),
            default => $inherited->ofOrganisation(),
        };

        return array_map(static fn (array $one): array => $one['value'], $told);
    }

    private static function siteOf(Model $object): ?Site
    {
        $id = match (true) {
            $object instanceof Site => $object->id,
            $object instanceof Prefix, $object instanceof Device => $object->site_id,
            $object instanceof Scope => $object->prefix->site_id,
            $object instanceof Vlan => $object->domain->site_id,
            default => null,
        };

        return $id === null ? null : Site::query()->find($id);
    }

    /** @return \Generator<int, array{DataLayer, string}> the outermost first */
    private static function places(Model $object): \Generator
    {
        yield [DataLayer::Organisation, ''];
        $chain = [];
        for ($site = self::siteOf($object), $far = 0; $site !== null && $far < 32; $far++) {
            array_unshift($chain, $site->id);
            $site = $site->parent_id === null ? null : Site::query()->find($site->parent_id);
        }
        foreach ($chain as $id) {
            yield [DataLayer::Site, $id];
        }
        $prefix = $object instanceof Scope ? $object->prefix : ($object instanceof Prefix ? $object : null);
        if ($prefix === null) {
            return;
        }
        if ((string) $prefix->role !== '') {
            yield [DataLayer::Role, (string) $prefix->role];
        }
        $tags = $prefix->tags ?? [];
        sort($tags);
        foreach ($tags as $tag) {
            yield [DataLayer::Tag, $tag];
        }
    }
}
