<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models;
use App\Models\Model;

/** The nearest hits for what is typed so far, a line each. */
final class QuickFind
{
    private const EACH = 4;

    private const ALL = 10;

    /** @return list<array{kind: string, text: string, more: string, of: Model, exact: bool}> those that are just what was typed first */
    public static function hits(string $text, Reach $reach): array
    {
        $hits = [];
        foreach (Find::text($text, $reach)->found as $kind => $rows) {
            foreach ($rows->take(self::EACH) as $row) {
                if ($row instanceof Model && ! $row instanceof Models\Lease) {
                    $hits[] = self::line($kind, $row, mb_strtolower(rtrim($text, '.')));
                }
            }
        }
        // Of a zone and the records at its name the zone is meant.
        if (array_filter($hits, static fn (array $h): bool => $h['exact'] && $h['of'] instanceof Models\Zone) !== []) {
            $hits = array_map(static fn (array $h): array => ['exact' => $h['exact'] && ! $h['of'] instanceof Models\Record] + $h, $hits);
        }
        usort($hits, static fn (array $a, array $b): int => $b['exact'] <=> $a['exact']);

        return array_slice($hits, 0, self::ALL);
    }

    /** @return array{kind: string, text: string, more: string, of: Model, exact: bool} */
    private static function line(string $kind, Model $row, string $typed): array
    {
        [$text, $more] = match (true) {
            $row instanceof Models\Prefix => [(string) $row->prefix(), $row->name],
            $row instanceof Models\Host => [(string) $row->address, $row->name],
            $row instanceof Models\Record => [rtrim($row->owner, '.'), "{$row->typeName()} $row->data"],
            $row instanceof Models\Zone => [rtrim($row->name, '.'), $row->view->name],
            $row instanceof Models\Vlan => ["$row->number $row->name", $row->domain->name],
            $row instanceof Models\Reservation => [(string) $row->address, "$row->mac $row->name"],
            default => [(string) ($row->getAttribute('name') ?? $row->line()), ''],
        };
        $exact = in_array($typed, [mb_strtolower($text), mb_strtolower(rtrim($more, '.'))], true);

        return ['kind' => $kind, 'text' => $text, 'more' => $more, 'of' => $row, 'exact' => $exact];
    }
}
