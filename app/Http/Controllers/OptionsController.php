<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Drafts\Drafts;
use App\Domain\Lease\OptionPlace;
use App\Models\ClientClass;
use App\Models\OptionDefinition;
use App\Models\OptionValue;
use App\Models\Power;
use App\Models\ScopeRange;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Site;
use App\Models\VendorTemplate;
use App\Queries\OptionReach;
use App\Queries\OwnOptions;
use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Client\ClientField;
use HarborPost\Core\Dhcp\Client\Comparison;
use HarborPost\Core\Dhcp\Option\OptionLayer;
use HarborPost\Core\Dhcp\Option\OptionReader;
use HarborPost\Core\Dhcp\Option\OwnShape;
use HarborPost\Core\Dhcp\Option\VendorTemplate as Template;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Dhcp\V6\OptionReader as V6Reader;
use HarborPost\Core\Net\Family;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** Options outside of one scope: the layers, the classes of clients, and bytes read as a client reads them. */
final class OptionsController extends Controller
{
    public function layer(Request $request, string $layer = 'organisation', string $of = ''): View
    {
        $this->wholeOnly();
        $kind = OptionLayer::tryFrom($layer);
        abort_if($kind === null || $kind === OptionLayer::Prefix || $kind === OptionLayer::Scope, 404);
        $place = OptionPlace::find($kind, $of) ?? abort(404);
        $rows = OptionValue::query()->where('layer', $layer)->where('layer_id', $place->id)
            ->orderBy('family')->orderBy('code')->get();
        $family = $place->scope?->family() ?? ($request->input('family') === '6' && $kind !== OptionLayer::ClientClass ? Family::V6
            : Family::V4);
        $class = $kind === OptionLayer::ClientClass ? ClientClass::query()->findOrFail($of) : null;

        return view('lease.options', [
            'place' => $place, 'rows' => $rows, 'may' => $this->works(Power::Leases), 'registered' => LeaseController::settable($family),
            'family' => $family,
            'reach' => $rows->mapWithKeys(
                fn (OptionValue $v): array => [$v->id => OptionReach::of($kind, $place->id, $v->code, $v->family)],
            ),
            'servers' => Server::query()->where('kind', ServerKind::Dhcp)->orderBy('name')->pluck('name', 'id'),
            'sites' => Site::query()->orderBy('name')->limit(500)->pluck('name', 'id'),
            'classes' => ClientClass::query()->orderBy('position')->orderBy('id')->pluck('name', 'id'),
            'counts' => DB::table('option_values')->whereIn('layer', ['organisation', 'server', 'site', 'class'])
                ->groupBy('layer', 'layer_id')->selectRaw("CONCAT(layer, ' ', layer_id) as k, COUNT(*) as n")->pluck('n', 'k'),
            'class' => $class, 'fields' => ClientField::cases(), 'comparisons' => Comparison::cases(),
            'ranges' => $class === null ? collect() : ScopeRange::query()->with('scope')->where('class_id', $class->id)->limit(100)->get(),
            'touched' => Drafts::touched($this->person()), 'book' => OwnOptions::now(), 'shapes' => OwnShape::choices(),
            'vendor' => $class?->vendorClass() ?? '', 'byTemplate' => self::byTemplate($rows, $family, $class),
            'described' => VendorTemplate::query()->find($request->string('template')->toString()),
            ...$kind === OptionLayer::Organisation ? self::own() : [],
            'templates' => $kind === OptionLayer::Organisation ? VendorTemplate::query()->orderBy('name')->get() : collect(),
        ]);
    }

    /**
     * Forms by templates: what stands in them now, those of the class's own vendor first.
     *
     * @param  \Illuminate\Support\Collection<int, OptionValue>  $rows
     * @return list<array{row: VendorTemplate, template: Template, typed: array<int, string>, fits: bool}>
     */
    private static function byTemplate(\Illuminate\Support\Collection $rows, Family $family, ?ClientClass $class): array
    {
        $forms = [];
        foreach (VendorTemplate::query()->where('family', $family)->orderBy('name')->limit(200)->get() as $row) {
            $template = $row->template();
            $set = $rows->first(static fn (OptionValue $v): bool => $v->family === $family && $v->code === $template->code());
            $fits = $class !== null && $template->isFor($class->vendorClass());
            try {
                // What was set by another template of the same option is nothing of this one.
                $typed = $set === null || ! $fits && $template->enterprise === null ? [] : $template->typed((string) $set->payload());
            } catch (BadOption) {
                $typed = [];
            }
            $forms[] = ['row' => $row, 'template' => $template, 'typed' => $typed, 'fits' => $fits];
        }
        usort($forms, static fn (array $a, array $b): int => $b['fits'] <=> $a['fits']);

        return $forms;
    }

    /** @return array{own: \Illuminate\Support\Collection<int, OptionDefinition>, ownCounts: array<string, int>} */
    private static function own(): array
    {
        $own = OptionDefinition::query()->orderBy('family')->orderBy('code')->get();
        $counts = DB::table('option_values')->whereIn('code', $own->pluck('code'))->groupBy('family', 'code')
            ->selectRaw("CONCAT(family, ' ', code) as k, COUNT(*) as n")->pluck('n', 'k')->all();

        return ['own' => $own->toBase(), 'ownCounts' => array_map(intval(...), $counts)];
    }

    public function classes(Request $request): View
    {
        $this->wholeOnly();
        $classes = ClientClass::query()->withCount('optionValues')->orderBy('position')->orderBy('id')->get();
        $typed = $request->string('packet')->toString();
        $packet = $problem = null;
        if (trim($typed) !== '') {
            try {
                $packet = Packet::fromWire(Hex::parse($typed));
            } catch (MalformedBytes $e) {
                $problem = "Byte $e->offset: {$e->expected} was expected.";
            }
        }

        return view('lease.classes', [
            'classes' => $classes, 'may' => $this->works(Power::Leases), 'fields' => ClientField::cases(),
            'comparisons' => Comparison::cases(), 'packet' => $packet, 'typed' => $typed, 'problem' => $problem,
            'ranges' => ScopeRange::query()->whereNotNull('class_id')->groupBy('class_id')->selectRaw('class_id, COUNT(*) as n')
                ->toBase()->pluck('n', 'class_id'),
            'start' => [$request->string('field')->toString(), $request->string('value')->toString()],
            'touched' => Drafts::touched($this->person()),
        ]);
    }

    /** Bytes as a capture shows them, read as a client would. */
    public function bytes(Request $request): View
    {
        $typed = $request->string('bytes')->toString();
        $code = $request->integer('code');
        $family = $request->input('family') === '6' ? Family::V6 : Family::V4;
        $lines = [];
        $problem = null;
        if (trim($typed) !== '') {
            try {
                $bytes = Hex::parse($typed);
                $lines = match (true) {
                    $family === Family::V6 => $code > 0 ? V6Reader::one($code, $bytes) : V6Reader::read($bytes),
                    $code > 0 => [OptionReader::one($code, $bytes)],
                    default => self::described(self::read($bytes)),
                };
            } catch (MalformedBytes $e) {
                $problem = "Byte $e->offset: {$e->expected} was expected.";
            } catch (BadOption $e) {
                $problem = $e->getMessage();
            }
        }

        return view('lease.bytes', [
            'typed' => $typed, 'code' => $code, 'lines' => $lines, 'problem' => $problem, 'family' => $family,
            'registered' => collect(OwnOptions::now()->all($family))->sortBy('code')
                ->mapWithKeys(fn ($d): array => [$d->code => "$d->code $d->name"])->all(),
        ]);
    }

    /**
     * Sub-options by the template of the vendor class that the same message tells, or of the enterprise number in them.
     *
     * @param  list<array{offset: int, code: int, name: string, bytes: string, meaning: string, fault: ?string}>  $lines
     * @return list<array{offset: int, code: int, name: string, bytes: string, meaning: string, fault: ?string}>
     */
    private static function described(array $lines): array
    {
        $said = array_column(array_filter($lines, static fn (array $l): bool => $l['code'] === 60), 'bytes')[0] ?? '';

        return array_map(static function (array $l) use ($said): array {
            $template = $l['fault'] === null ? OwnOptions::now()->template($l['code'], $l['bytes'], Family::V4, $said) : null;

            return $template === null ? $l
                : ['name' => "$l[name], by $template->name", 'meaning' => $template->words($l['bytes'])] + $l;
        }, $lines);
    }

    /**
     * A whole message, or the options alone: a message has the cookie of RFC 2131 §3 behind its fields.
     *
     * @return list<array{offset: int, code: int, name: string, bytes: string, meaning: string, fault: ?string}>
     */
    private static function read(string $bytes): array
    {
        $cookie = strpos($bytes, "\x63\x82\x53\x63");
        $from = $cookie === 236 || $cookie === 0 ? $cookie + 4 : 0;

        return array_map(
            static fn (array $l): array => ['offset' => $l['offset'] + $from] + $l,
            OptionReader::read(substr($bytes, $from)),
        );
    }
}
