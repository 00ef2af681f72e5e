<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Prefix;
use App\Models\Space;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Planning\AddressPlan;
use HarborPost\Core\Planning\Need;
use HarborPost\Core\Planning\NeedsTable;
use HarborPost\Core\Planning\Packing;
use HarborPost\Core\Planning\PlannedSubnet;
use HarborPost\Core\Planning\SitePlan;
use HarborPost\Core\Planning\Strategy;
use Illuminate\Support\Facades\DB;

/** What the planner works with: the needs as they were read, and what is open in the prefixes that were named. */
final readonly class Planner
{
    /**
     * @param  list<Need>  $needs
     * @param  list<Net>  $open
     * @param  list<Net>  $wholes  as named
     * @param  list<string>  $faults  what could not be understood, each with its place
     */
    private function __construct(public array $needs, public array $open, public array $wholes, public array $faults)
    {
    }

    /** @param  string  $in  prefixes, apart by blanks or commas */
    public static function read(Space $space, string $in, string $needs): self
    {
        $faults = $open = $wholes = [];
        foreach (preg_split('/[\s,;]+/', trim($in), -1, PREG_SPLIT_NO_EMPTY) ?: [] as $text) {
            try {
                $net = Net::parse($text);
            } catch (NotUnderstood $e) {
                $faults[] = $e->getMessage().($e->suggestion === null ? '' : " Did you mean $e->suggestion?");

                continue;
            }
            $wholes[] = $net;
            [$blocks, $fault] = self::openIn($space, $net);
            $open = [...$open, ...$blocks];
            $fault === null ?: $faults[] = $fault;
        }
        if ($wholes === [] && $faults === []) {
            $faults[] = 'Say in which prefix to plan.';
        }
        $table = NeedsTable::read($needs);
        foreach ($table->faults as $fault) {
            $faults[] = "Line {$fault['line']}, {$fault['column']}: {$fault['message']}.";
        }

        return new self($table->needs, $open, $wholes, $faults);
    }

    public function plan(Strategy $strategy): AddressPlan
    {
        return Packing::plan($this->open, $this->needs, $strategy);
    }

    /** The same plan gives the same fingerprint. */
    public static function fingerprint(AddressPlan $plan): string
    {
        return substr(
            hash(
                'sha256',
                implode(
                    ' ',
                    array_map(
                        fn (SitePlan $s): string => "$s->site $s->prefix $s->prefix6 "
                            .implode(' ', array_map(fn (PlannedSubnet $p): string => "$p->prefix $p->prefix6", $s->subnets)),
                        $plan->sites,
                    ),
                ),
            ),
            0,
            24,
        );
    }

    /** @return array{list<Net>, ?string} */
    private static function openIn(Space $space, Net $net): array
    {
        $holder = Ancestors::of($space->id, $net)->last(fn (Prefix $p): bool => $p->groups);
        $link = Ancestors::of($space->id, $net)->first(fn (Prefix $p): bool => ! $p->groups);
        if ($link !== null) {
            return [[], "$net lies in the {$link->kind->value} {$link->line()}, which holds no prefixes."];
        }
        $inside = Prefix::query()->where('space_id', $space->id)->where('family', $net->family()->value)
            ->whereBetween('first', [$net->first->bytes, $net->last()->bytes])->where('length', '>', $net->length)
            ->where('groups', true)->pluck('id');
        if ($holder === null && $inside->isEmpty()) {
            return [[$net], null];
        }
        if ($holder !== null && $holder->prefix()->equals($net)) {
            return [OpenBlocks::within($holder, $net, 128, 100000), null];
        }
        if ($holder !== null) {
            return [
                array_values(
                    array_filter(
                        array_map(
                            fn (Net $b): ?Net => $net->contains($b) ? $b : ($b->contains($net) ? $net : null),
                            OpenBlocks::within($holder, $net, 128, 100000),
                        ),
                    ),
                ),
                null,
            ];
        }

        return [[], "$net holds prefixes and is itself not in the plan; write it down as a supernet first."];
    }

    /** @return array<string, string> id → prefix and name: supernets with something open, for choosing where to plan */
    public static function places(Space $space): array
    {
        return Prefix::query()->where('space_id', $space->id)->where('groups', true)
            ->whereIn('id', DB::table('open_blocks')->select('parent_id'))->orderBy('family')->orderBy('first')
            ->orderBy('length')->limit(300)->get()
            ->mapWithKeys(fn (Prefix $p): array => [(string) $p->prefix() => trim("{$p->prefix()} $p->name")])->all();
    }
}
