<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Prefix;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Planning\Fit;
use HarborPost\Core\Planning\OpenSpace;
use Illuminate\Support\Facades\DB;

/** Open blocks of a supernet, from the maintained table: answers cost a few index seeks, whatever the number of children. */
final class OpenBlocks
{
    public static function next(Prefix $parent, int $length, Fit $fit): ?Net
    {
        return OpenSpace::ofBlocks(self::lowestOfEach($parent, $length))->next($length, $fit);
    }

    public static function largest(Prefix $parent): ?Net
    {
        $row = DB::table('open_blocks')->where('parent_id', $parent->id)->orderBy('length')->orderBy('first')->limit(1)
            ->first(['first', 'length']);

        return $row === null ? null : self::net($row);
    }

    /**
     * The places that each way of choosing proposes for a length, the recommended one first, without repeats.
     *
     * @return list<array{net: Net, fit: Fit, inside: Net}>
     */
    public static function proposals(Prefix $parent, int $length): array
    {
        $blocks = self::lowestOfEach($parent, $length);
        $found = [];
        foreach ([Fit::Best, Fit::First, Fit::Room] as $fit) {
            $net = OpenSpace::ofBlocks($blocks)->next($length, $fit);
            if ($net === null) {
                continue;
            }
            foreach ($blocks as $block) {
                if ($block->contains($net)) {
                    $found[(string) $net] ??= ['net' => $net, 'fit' => $fit, 'inside' => $block];
                }
            }
        }

        return array_values($found);
    }

    /**
     * The open blocks that reach into a part of a supernet, no longer than $longest.
     *
     * @return list<Net>
     */
    public static function within(Prefix $parent, Net $part, int $longest, int $limit = 300): array
    {
        $rows = DB::table('open_blocks')->where('parent_id', $parent->id)->where('length', '<=', $longest)
            ->whereBetween('first', [$part->first->bytes, $part->last()->bytes])->orderBy('first')->limit($limit)->get(['first', 'length']);
        $blocks = array_values($rows->map(self::net(...))->all());
        if ($blocks === [] || ! $blocks[0]->first->equals($part->first)) {
            $around = DB::table('open_blocks')->where('parent_id', $parent->id)
                ->where('first', '<', $part->first->bytes)->orderByDesc('first')->limit(1)->first(['first', 'length']);
            if ($around !== null && self::net($around)->contains($part)) {
                return [self::net($around)];
            }
        }

        return $blocks;
    }

    public static function count(Prefix $parent): int
    {
        return DB::table('open_blocks')->where('parent_id', $parent->id)->count();
    }

    /** @return list<Net> the lowest open block of each length that fits */
    private static function lowestOfEach(Prefix $parent, int $length): array
    {
        return array_values(DB::table('open_blocks')->where('parent_id', $parent->id)->where('length', '<=', $length)
            ->groupBy('length')->selectRaw('length, MIN(first) as first')->get()->map(self::net(...))->all());
    }

    private static function net(\stdClass $row): Net
    {
        return Net::of(Address::fromBytes((string) $row->first), (int) $row->length);
    }
}
