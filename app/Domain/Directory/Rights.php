<?php

declare(strict_types=1);

namespace App\Domain\Directory;

use App\Acts\Engine\RowRights;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\RightTest;
use App\Models\Zone;
use App\Queries\Reach;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/** Tries what somebody may: by the same reach and rights of rows that every page and act asks. */
final class Rights
{
    public static function may(Person $person, string $does, string $noun, string $id): ?bool
    {
        $row = $noun === 'prefix' ? Prefix::query()->find($id) : Zone::query()->find($id);
        if ($row === null) {
            return null;
        }
        $reach = Reach::of($person);
        $sees = $person->active && ($noun === 'prefix' ? $reach->prefixes() : $reach->zones())->whereKey($id)->exists();

        return $does === 'see' ? $sees : $sees && RowRights::allow($person, $row, $row->getRawOriginal(), false);
    }

    /** @return list<string> tests that turned, as sentences */
    public static function test(): array
    {
        $turned = [];
        foreach (RightTest::query()->with('person')->orderBy('id')->lazy(200) as $test) {
            $found = self::may($test->person, $test->does, $test->noun, $test->object_id);
            // A machine's finding, and nobody's act.
            DB::table('right_tests')->where('id', $test->id)->update(['found' => $found, 'run_at' => now()]);
            $found !== null && $found !== $test->expected ? $turned[] = $test->sentence() : null;
        }

        return $turned;
    }

    /** @return array<string, int> what a person sees, counted */
    public static function sees(Person $person): array
    {
        $reach = Reach::of($person);
        $count = static fn (Builder $q): int => $q->count();

        return [
            'prefixes' => $count($reach->prefixes()), 'addresses' => $count($reach->hosts()), 'zones' => $count($reach->zones()),
            'records' => $count($reach->records()), 'scopes' => $count($reach->scopes()), 'VLANs' => $count($reach->vlans()),
        ];
    }
}
