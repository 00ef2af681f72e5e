<?php

declare(strict_types=1);

namespace App\Actions\Imports;

use App\Actions\Action;
use App\Actions\Ledger;
use App\Models\Import;
use App\Models\Person;
use Illuminate\Support\Facades\DB;

/** The verdicts on staged rows are written. */
final readonly class JudgeRows extends Action
{
    /** @param  array<int, array{string, string, array<string, mixed>|null}>  $verdicts  id → verdict, reason, what taking over does when it is not the payload */
    public function __construct(public array $verdicts, public string $import)
    {
    }

    public function title(): string
    {
        return 'Judge rows';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function apply(Ledger $ledger): void
    {
        if (Import::query()->whereKey($this->import)->value('state') !== 'reading') {
            $ledger->refuse('ended', 'The import was cancelled meanwhile');
        }
        $plain = [];
        foreach ($this->verdicts as $id => [$verdict, $reason, $result]) {
            if ($reason === '' && $result === null) {
                $plain[$verdict][] = $id;

                continue;
            }
            DB::table('import_rows')->where('id', $id)->update([
                'verdict' => $verdict, 'reason' => mb_strimwidth($reason, 0, 490, '…'), 'result' => $result === null ? null : json_encode($result, JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE),
            ]);
        }
        foreach ($plain as $verdict => $ids) {
            DB::table('import_rows')->whereIn('id', $ids)->update(['verdict' => $verdict, 'reason' => '', 'result' => null]);
        }
    }
}
