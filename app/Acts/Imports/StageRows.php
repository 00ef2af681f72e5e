<?php

declare(strict_types=1);

namespace App\Acts\Imports;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Database\Bulk;
use App\Models\Import;
use App\Models\ImportState;
use App\Models\Person;
use App\Models\RowVerdict;

/** A chunk of read rows and how far reading has come, in one transaction: after a crash reading goes on from there, nothing twice. */
final readonly class StageRows extends Act
{
    /**
     * @param  list<array{line: int, verdict: RowVerdict, what: string, reason: string, payload: array<string, mixed>, place?: ?string,
     *     match_key?: ?string, result?: array<string, mixed>|null}>  $rows
     */
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
        if (Import::query()->whereKey($this->import)->value('state') !== ImportState::Reading) {
            $ledger->refuse('ended', 'The import was cancelled meanwhile');
        }
        $json = static fn (array $value): string => json_encode($value, JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE);
        Bulk::insert('import_rows', array_map(fn (array $r): array => [
            'import_id' => $this->import, 'line' => $r['line'], 'verdict' => $r['verdict']->value, 'what' => self::cut($r['what'], 290),
            'reason' => self::cut($r['reason'], 490),
            'payload' => $json($r['payload']), 'place' => $r['place'] ?? null, 'match_key' => $r['match_key'] ?? null,
            'result' => isset($r['result']) ? $json($r['result']) : null,
        ], $this->rows));
        Import::query()->whereKey($this->import)->update(['bytes_read' => $this->bytesRead, 'lines' => $this->lines]);
    }

    private static function cut(string $text, int $most): string
    {
        return strlen($text) <= $most && mb_check_encoding($text, 'UTF-8') ? $text : mb_strimwidth(mb_scrub($text, 'UTF-8'), 0, $most, '…');
    }
}
