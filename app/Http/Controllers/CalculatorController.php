<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Prefix;
use App\Models\Tenant;
use App\Queries\Ancestors;
use App\Queries\Choices;
use App\Queries\PrefixFacts;
use App\Queries\SitesBelow;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Net\PrefixSet;
use HarborPost\Core\Net\Understood;
use HarborPost\Core\Planning\Summary;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** Arithmetic with an address of its own: any prefix in all its forms, and the fewest prefixes that cover a site, a tenant or a tag. */
final class CalculatorController extends Controller
{
    private const SPLIT = 256;

    public function prefix(Request $request): View
    {
        $text = trim($request->string('p')->toString());
        $data = ['text' => $text, 'net' => null, 'problem' => null, 'understood' => null, 'pieces' => [], 'range' => null];
        if ($text === '') {
            return view('plan.calculator', $data);
        }
        try {
            $understood = Understood::from($text);
        } catch (NotUnderstood $e) {
            return view('plan.calculator', ['problem' => $e->getMessage(), 'offset' => $e->offset] + $data);
        }
        $net = $understood->prefix;
        if ($net === null) {
            return view(
                'plan.calculator',
                [
                    'range' => $understood->range,
                    'pieces' => $understood->range->prefixes(),
                    'understood' => "a range of {$understood->range->size()} addresses, no prefix",
                ] + $data,
            );
        }
        $split = $request->integer('split');
        $split = $split > $net->length && $split <= $net->family()->bits() ? $split : null;
        $pieces = [];
        for (
            $at = $net->first; $split !== null
                && $at !== null
                && $net->contains($at)
                && count($pieces) < self::SPLIT; $at = $at->in($split)->last()->next()
        ) {
            $pieces[] = $at->in($split);
        }

        return view('plan.calculator', [
            'net' => $net, 'facts' => PrefixFacts::of($net), 'split' => $split, 'pieces' => $pieces,
            'understood' => $understood->hostBits ? "the network of $understood->address" : null, 'zones' => ReverseName::zones($net),
            'stands' => $this->stands($net), 'typed' => $understood->address,
        ] + $data);
    }

    public function summary(Request $request): View
    {
        $reach = $this->reach();
        $tolerance = max(0.0, min(400.0, (float) $request->string('tolerance', '0')->toString()));
        [$what, $prefixes] = $this->chosen($request);
        $set = PrefixSet::of(...$prefixes->map(fn (Prefix $p): Net => $p->prefix())->all());
        $summary = $prefixes->isEmpty() ? null : Summary::of($set, $tolerance / 100);

        return view('plan.summary', [
            'choices' => new Choices($reach),
            'tags' => $reach->isWhole() ? DB::table('prefix_tags')->distinct()->orderBy('tag')->limit(300)->pluck('tag', 'tag')->all() : [],
            'what' => $what,
            'prefixes' => $prefixes,
            'exact' => $prefixes->isEmpty() ? [] : $set->prefixes(), 'summary' => $summary, 'tolerance' => $tolerance,
            'text' => implode("\n", array_map(strval(...), $summary->prefixes ?? [])),
        ]);
    }

    /** @return array{string, \Illuminate\Support\Collection<int, Prefix>} */
    private function chosen(Request $request): array
    {
        $reach = $this->reach();
        $query = $reach->prefixes()->where('groups', false)
            ->when($request->filled('stage'), fn ($q) => $q->where('stage', $request->string('stage')->toString()))
            ->orderBy('family')->orderBy('first')->limit(20000);
        $none = collect();
        if ($request->filled('site')) {
            $site = $reach->sites()->find($request->string('site')->toString());

            return $site === null ? ['', $none] : [$site->name, $query->whereIn('site_id', SitesBelow::of($site->id))->get()->toBase()];
        }
        if ($request->filled('tenant')) {
            $tenant = Tenant::query()->find($request->string('tenant')->toString());

            return $tenant === null ? ['', $none] : [$tenant->name, $query->where('effective_tenant_id', $tenant->id)->get()->toBase()];
        }
        if ($request->filled('tag')) {
            $tag = mb_strtolower($request->string('tag')->toString());

            return [
                $tag,
                $query->whereIn('prefixes.id', DB::table('prefix_tags')->where('tag', $tag)->select('prefix_id'))->get()->toBase(),
            ];
        }

        return ['', $none];
    }

    /** @return list<array{Prefix, string}> what holds or equals it in each space, and what lies in it, as far as the person may see */
    private function stands(Net $net): array
    {
        $reach = $this->reach();
        $found = [];
        foreach (\App\Models\Space::query()->orderBy('name')->get() as $space) {
            foreach (Ancestors::of($space->id, $net) as $above) {
                if ($reach->isWhole() || $reach->prefixes()->whereKey($above->id)->exists()) {
                    $found[] = [$above, $space->name];
                }
            }
            foreach (
                $reach->prefixes()->where('space_id', $space->id)->where('family', $net->family()->value)
                    ->whereBetween('first', [$net->first->bytes, $net->last()->bytes])
                    ->where('length', '>', $net->length)->orderBy('first')->orderBy('length')->limit(12)
                    ->get() as $inside
            ) {
                $found[] = [$inside, $space->name];
            }
        }

        return $found;
    }
}
