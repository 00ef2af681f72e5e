<?php

declare(strict_types=1);

namespace App\Actions\Imports;

use App\Actions\Action;
use App\Actions\Ledger;
use App\Models\Person;
use Illuminate\Support\Facades\DB;

/** The verdicts on staged rows are written. */
final readonly class JudgeRows extends Action
{
    /** @param  array<int, array{string, string, array<string, mixed>|null}>  $verdicts  id → verdict, reason, payload when it changed */
    public function __construct(public array $verdicts)
    {
    }

    public function title(): string
    {
        return 'Judge rows';
    }

    public static function may(Person $person): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        $plain = [];
        foreach ($this->verdicts as $id => [$verdict, $reason, $payload]) {
            if ($reason === '' && $payload === null) {
                $plain[$verdict][] = $id;

                continue;
            }
            DB::table('import_rows')->where('id', $id)->update(['verdict' => $verdict, 'reason' => mb_strimwidth($reason, 0, 490, '…')] + ($payload === null ? [] : ['payload' => json_encode($payload, JSON_THROW_ON_ERROR)]));
        }
        foreach ($plain as $verdict => $ids) {
            DB::table('import_rows')->whereIn('id', $ids)->update(['verdict' => $verdict]);
        }
    }
}
