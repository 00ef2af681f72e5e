<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Imports\PlanFile;
use App\Models\Host;
use App\Models\Space;
use App\Models\Vlan;
use App\Queries\PrefixFacts;
use App\Queries\RulerRows;
use App\View\Download;
use App\View\Ruler;
use Illuminate\Contracts\View\View;
use Symfony\Component\HttpFoundation\StreamedResponse;

/** Prefixes, VLANs and addresses out: as CSV, as JSON, and on paper. Everything streams. */
final class ExportController extends Controller
{
    private const PRINTED = 600;

    /** prefixes and addresses of a space, as the import reads them back */
    public function plan(string $space): StreamedResponse
    {
        $this->wholeOnly();
        $space = Space::query()->findOrFail($space);

        return Download::json($space->name.'-plan', (function () use ($space): \Generator {
            $columns = null;
            $n = 0;
            foreach (PlanFile::write($space) as $row) {
                if ($columns === null) {
                    $columns = $row;

                    continue;
                }
                $object = array_filter(array_combine($columns, $row), fn (string $v): bool => $v !== '');
                yield $n++ => isset($object['tags']) ? ['tags' => explode(', ', $object['tags'])] + $object : $object;
            }
        })());
    }

    public function vlans(string $form): StreamedResponse
    {
        $rows = (function (): \Generator {
            foreach ($this->reach()->vlans()->with('domain.site')->orderBy('domain_id')->orderBy('number')->lazy(1000) as $vlan) {
                /** @var Vlan $vlan */
                yield [
                    'domain' => $vlan->domain->name, 'site' => $vlan->domain->site->name ?? '', 'number' => $vlan->number,
                    'name' => $vlan->name, 'description' => $vlan->description,
                ];
            }
        })();

        return $form === 'json'
            ? Download::json('vlans', $rows)
            : Download::csv('vlans', self::under(['domain', 'site', 'number', 'name', 'description'], $rows));
    }

    /** Addresses of one subnet. */
    public function addresses(string $prefix, string $form): StreamedResponse
    {
        $subnet = $this->reach()->prefixes()->findOrFail($prefix);
        $rows = (function () use ($subnet): \Generator {
            foreach (Host::query()->with('device')->where('prefix_id', $subnet->id)->orderBy('address')->lazy(2000) as $host) {
                /** @var Host $host */
                yield [
                    'address' => (string) $host->address, 'name' => $host->name, 'mac' => (string) $host->mac, 'role' => $host->role,
                    'owner' => $host->owner, 'interface' => $host->interface, 'description' => $host->description,
                ];
            }
        })();
        $name = (string) preg_replace('/[^0-9a-f]+/', '-', (string) $subnet->prefix());

        return $form === 'json'
            ? Download::json("addresses-$name", $rows)
            : Download::csv("addresses-$name", self::under(['address', 'name', 'mac', 'role', 'owner', 'interface', 'description'], $rows));
    }

    /** A plan made for paper: the ruler, then everything inside in the order of the tree. */
    public function paper(string $prefix): View
    {
        $reach = $this->reach();
        $row = $reach->prefixes()->with(['space', 'site', 'vlan', 'tenant'])->findOrFail($prefix);
        $inside = $reach->prefixes()->with(['site', 'vlan'])->where('space_id', $row->space_id)
            ->where('family', $row->family)->whereBetween('first', [$row->first->bytes, $row->prefix()->last()->bytes])
            ->where('length', '>=', $row->length)->whereKeyNot($row->id)
            ->orderBy('first')->orderBy('length')->orderByDesc('groups')->limit(self::PRINTED + 1)->get();
        $depths = [];
        $above = [];
        foreach ($inside as $child) {
            while ($above !== [] && ! $above[count($above) - 1]->prefix()->contains($child->prefix())) {
                array_pop($above);
            }
            $depths[$child->id] = count($above);
            $above[] = $child;
        }

        return view('plan.paper', [
            'prefix' => $row, 'net' => $row->prefix(), 'facts' => PrefixFacts::of($row->prefix()),
            'inside' => $inside->take(self::PRINTED), 'more' => $inside->count() > self::PRINTED, 'depths' => $depths,
            'ruler' => $row->groups ? Ruler::of(RulerRows::of($row, $reach)) : null,
            'hosts' => $row->isSubnet()
                ? Host::query()->where('prefix_id', $row->id)->orderBy('address')->limit(self::PRINTED)->get()
                : collect(),
        ]);
    }

    /**
     * @param  list<string>  $columns
     * @param  \Generator<int, array<string, int|string>>  $rows
     * @return \Generator<int, array<int|string, int|string>>
     */
    private static function under(array $columns, \Generator $rows): \Generator
    {
        yield $columns;
        foreach ($rows as $row) {
            yield $row;
        }
    }
}
