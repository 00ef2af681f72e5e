<?php

declare(strict_types=1);

namespace App\Acts\Imports;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Models\Import;
use App\Models\ImportState;
use App\Models\Person;
use App\Models\RowVerdict;
use Illuminate\Support\Facades\DB;

/** The verdicts on staged rows are written. */
final readonly class JudgeRows extends Act
{
    /**
     * @param  array<int, array{RowVerdict, string, array<string, mixed>|null}>  $verdicts  id → verdict, reason, what taking over does when
     *     it
     *     is not the payload
     */
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
        if (Import::query()->whereKey($this->import)->value('state') !== ImportState::Reading) {
            $ledger->refuse('ended', 'The import was cancelled meanwhile');
        }
        $lines = [];
        foreach ($this->verdicts as $id => [$verdict, $reason, $result]) {
            $lines[] = [
                $id,
                $verdict->value,
                mb_strimwidth($reason, 0, 490, '…'),
                $result === null ? null : json_encode($result, JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE),
            ];
        }
        foreach (array_chunk($lines, 500) as $chunk) {
            // One statement for all of them, whatever each says.
            DB::update(
                "UPDATE import_rows r JOIN JSON_TABLE(?, '$[*]' COLUMNS (
                    id BIGINT PATH '$[0]', verdict VARCHAR(8) PATH '$[1]', reason VARCHAR(500) PATH '$[2]', result LONGTEXT PATH '$[3]'
                 )) v
                 ON v.id = r.id SET r.verdict = v.verdict, r.reason = v.reason, r.result = v.result WHERE r.import_id = ?",
                [json_encode($chunk, JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE), $this->import],
            );
        }
    }
}
