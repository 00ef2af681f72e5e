<?php

declare(strict_types=1);

namespace App\Queries;

use App\Guide\Book;
use App\Models\Ability;
use App\Models\Person;
use App\Models\PrefixKind;
use App\Models\Server;
use HarborPost\Core\Net\Prefix as Net;

/** What the find field does in plain words, as far as the person may: each opens the page where it is done. */
final class FindCommands
{
    private const MOST = 4;

    /** @return list<array{words: string, link: ?string, hint: string}> without a link while something is missing */
    public static function of(string $text, Reach $reach, Person $person): array
    {
        $commands = [];
        foreach (self::known($person) as $words => [$of, $hint]) {
            $typed = mb_strtolower($text);
            if ($typed !== '' && str_starts_with($words, $typed)) {
                $commands[] = ['words' => "$words …", 'link' => null, 'hint' => $hint];
            } elseif (str_starts_with($typed, "$words ")) {
                array_push($commands, ...$of($words, trim(substr($text, strlen($words) + 1)), $reach));
            }
        }

        // What reads like a question, or like a task, is in the guides.
        $asks = preg_match('/\A(?:how|guide)\b/i', trim($text)) === 1;
        $words = trim((string) preg_replace('/\A(?:how|guide)\b(?:\s+(?:do|can)\s+i)?/i', '', trim($text)));
        foreach (str_contains($words, ' ') || $asks && $words !== '' ? Book::like($words, $asks ? 4 : 2) : [] as $task) {
            $commands[] = ['words' => $task->title, 'link' => $task->link(), 'hint' => "guide, $task->of"];
        }

        return array_slice($commands, 0, self::MOST + 4);
    }

    /** @return array<string, array{\Closure(string, string, Reach): list<array{words: string, link: ?string, hint: string}>, string}> */
    private static function known(Person $person): array
    {
        $known = [];
        if (Granted::works($person, Ability::Hosts)) {
            $known['place host in'] = [
                static fn (string $w, string $t, Reach $r): array => self::prefixes($w, $t, $r, PrefixKind::Subnet, '#place'),
                'a subnet, by prefix or name',
            ];
        }
        if (Granted::plans($person)) {
            $known['carve in'] = [
                static fn (string $w, string $t, Reach $r): array => self::prefixes($w, $t, $r, PrefixKind::Supernet, '#carve'),
                'a supernet, by prefix or name',
            ];
        }
        if (! $person->isBound()) {
            $known['look up'] = [
                static fn (string $w, string $t): array => $t === ''
                    ? []
                    : [['words' => "$w $t", 'link' => at('name.lookup').'?server=all&q='.urlencode($t), 'hint' => 'ask every server']],
                'a name, or an address for its PTR',
            ];
            $known['ship'] = [self::servers(...), 'a server, by name'];
            $known['try'] = [self::scopes(...), 'an exchange in a scope, by name'];
        }

        return $known;
    }

    /** @return list<array{words: string, link: ?string, hint: string}> */
    private static function prefixes(string $words, string $text, Reach $reach, PrefixKind $kind, string $anchor): array
    {
        $net = Net::tryParse($text);
        $rows = $reach->prefixes()->where('kind', $kind)
            ->when(
                $net !== null,
                fn ($q) => $q->where('family', $net?->family()->value)->where('first', $net?->first->bytes)->where('length', $net?->length),
            )
            ->when($net === null, fn ($q) => $q->where('name', 'like', addcslashes($text, '%_\\').'%'))
            ->orderBy('name')->limit(self::MOST)->get();

        return array_values($rows->map(
            static fn ($row): array => [
                'words' => "$words {$row->prefix()}",
                'link' => at('plan.prefix', $row->id).$anchor,
                'hint' => $row->name,
            ],
        )->all());
    }

    /** @return list<array{words: string, link: ?string, hint: string}> */
    private static function servers(string $words, string $text): array
    {
        $rows = Server::reached()->where('name', 'like', addcslashes($text, '%_\\').'%')
            ->orderBy('name')->limit(self::MOST)->get();

        return array_values($rows->map(
            static fn (Server $row): array => [
                'words' => "$words $row->name",
                'link' => at('ship.server', $row->id).'#ship',
                'hint' => $row->does(),
            ],
        )->all());
    }

    /** @return list<array{words: string, link: ?string, hint: string}> */
    private static function scopes(string $words, string $text, Reach $reach): array
    {
        $rows = $reach->scopes()->where('scopes.name', 'like', '%'.addcslashes($text, '%_\\').'%')
            ->orderBy('scopes.name')->limit(self::MOST)->get();

        return array_values($rows->map(
            static fn ($row): array => [
                'words' => "$words $row->name",
                'link' => at('lease.exchange')."?scope=$row->id",
                'hint' => 'try an exchange',
            ],
        )->all());
    }
}
