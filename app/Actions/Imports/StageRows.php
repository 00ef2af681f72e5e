<?php

declare(strict_types=1);

namespace App\Actions\Imports;

use App\Actions\Action;
use App\Actions\Ledger;
use App\Models\Import;
use App\Models\Person;
use Illuminate\Support\Facades\DB;

/** A chunk of read rows and how far reading has come, in one transaction: after a crash reading goes on from there, nothing twice. */
final readonly class StageRows extends Action
{
    /** @param  list<array{line: int, verdict: string, what: string, reason: string, payload: array<string, mixed>, place?: ?string, match_key?: ?string}>  $rows */
    public function __construct(public string $import, public array $rows, public int $bytesRead, public int $lines)
    {
    }

    public function title(): string
    {
        return 'Stage rows';
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
        foreach (array_chunk($this->rows, 500) as $chunk) {
            DB::table('import_rows')->insert(array_map(fn (array $r): array => [
                'import_id' => $this->import, 'line' => $r['line'], 'verdict' => $r['verdict'], 'what' => mb_strimwidth($r['what'], 0, 290, '…'), 'reason' => mb_strimwidth($r['reason'], 0, 490, '…'),
                'payload' => json_encode($r['payload'], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE), 'place' => $r['place'] ?? null, 'match_key' => $r['match_key'] ?? null,
            ], $chunk));
        }
        Import::query()->whereKey($this->import)->update(['bytes_read' => $this->bytesRead, 'lines' => $this->lines]);
    }
}
