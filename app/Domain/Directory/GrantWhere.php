<?php

declare(strict_types=1);

namespace App\Domain\Directory;

use App\Acts\Engine\Ledger;
use App\Models\GrantPlace;
use App\Models\Model;
use App\Models\Prefix;
use App\Models\Site;
use App\Models\Space;
use App\Models\Stage;
use App\Models\Tenant;
use App\Models\Zone;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Support\Facades\DB;

/** Reads where a grant holds from what people write: a prefix, a zone, the name of a site, a tenant or a space, a tag or a stage. */
final class GrantWhere
{
    /** @return array{GrantPlace, string} the place, and its id or its word */
    public static function read(Ledger $ledger, string $text): array
    {
        $text = trim($text);
        if (preg_match('/\A(tag|stage)\s+(.+)\z/i', $text, $m) === 1) {
            return self::word($ledger, GrantPlace::from(strtolower($m[1])), trim($m[2]));
        }
        [$kind, $row] = self::object($ledger, $text);

        return [$kind, (string) $row->getKey()];
    }

    /**
     * A word that prefixes carry; one that none carries is most likely not meant.
     *
     * @return array{GrantPlace, string}
     */
    private static function word(Ledger $ledger, GrantPlace $kind, string $word): array
    {
        $known = $kind === GrantPlace::Stage ? Stage::tryFrom(strtolower($word))?->value
            : DB::table('prefix_tags')->where('tag', $word)->value('tag');
        if (! is_string($known)) {
            $ledger->refuse(
                'word-not-carried',
                "No prefix carries the $kind->value \"$word\"",
                'Write it as prefixes carry it; stages are planned, live, retiring and withheld.',
                field: 'where',
            );
        }

        return [$kind, $known];
    }

    /** @return array{GrantPlace, Model} */
    private static function object(Ledger $ledger, string $text): array
    {
        $kind = null;
        if (preg_match('/\A(tenant|site|space|prefix|zone)\s+(.+)\z/i', $text, $m) === 1) {
            $kind = GrantPlace::from(strtolower($m[1]));
            $text = trim($m[2]);
        }
        $in = preg_match('/\A(\S+)\s+in\s+(.+)\z/i', $text, $m) === 1 ? [$m[1], trim($m[2])] : [$text, ''];
        $found = [];
        foreach ($kind === null ? GrantPlace::cases() : [$kind] as $one) {
            foreach (self::rows($one, $text, $in[0], $in[1]) as $row) {
                $found[] = [$one, $row];
            }
        }
        if ($found === []) {
            $ledger->refuse(
                'place-not-found',
                "\"$text\" is no prefix of the plan, no zone, and no name of a site, a tenant or a space",
                'Write it as it is called; with its kind before it where two are called alike: "site Tarbeck".',
                field: 'where',
            );
        }
        // A supernet that a subnet fills has the same prefix: the outer one holds both.
        $two = array_column($found, 1);
        if (count($two) === 2 && $two[0] instanceof Prefix && $two[1] instanceof Prefix && $two[0]->space_id === $two[1]->space_id) {
            $found = [$two[0]->groups ? $found[0] : $found[1]];
        }
        if (count($found) > 1) {
            $ledger->refuse(
                'place-ambiguous',
                "\"$text\" may be "
                    .implode(' or ', array_map(static fn (array $f): string => self::exactly($f[0], $f[1]), array_slice($found, 0, 5))),
                'Write one of these.',
                field: 'where',
                offer: self::exactly($found[0][0], $found[0][1]),
            );
        }

        return $found[0];
    }

    /** As it can be written so that nothing else is meant. */
    public static function exactly(GrantPlace $kind, Model $row): string
    {
        return match (true) {
            $row instanceof Prefix => "prefix {$row->prefix()} in {$row->space->name}",
            $row instanceof Zone => 'zone '.rtrim($row->name, '.')." in {$row->view->name}",
            $row instanceof Site, $row instanceof Tenant, $row instanceof Space => "$kind->value $row->name",
            default => '',
        };
    }

    /** @return list<Model> */
    private static function rows(GrantPlace $kind, string $name, string $first, string $in): array
    {
        $net = Net::tryParse($first);

        return array_values(match ($kind) {
            GrantPlace::Prefix => $net === null ? [] : Prefix::query()->with('space')->where('family', $net->family()->value)
                ->where('first', $net->first->bytes)->where('length', $net->length)
                ->when($in !== '', fn ($q) => $q->whereHas('space', fn ($s) => $s->where('name', $in)))->limit(6)->get()->all(),
            GrantPlace::Zone => Zone::query()->with('view')->where('name', strtolower(rtrim($first, '.')).'.')
                ->when($in !== '', fn ($q) => $q->whereHas('view', fn ($s) => $s->where('name', $in)))->limit(6)->get()->all(),
            GrantPlace::Site => Site::query()->where('name', $name)->limit(6)->get()->all(),
            GrantPlace::Tenant => Tenant::query()->where('name', $name)->limit(6)->get()->all(),
            GrantPlace::Space => Space::query()->where('name', $name)->limit(6)->get()->all(),
            GrantPlace::Tag, GrantPlace::Stage => [],
        });
    }
}
