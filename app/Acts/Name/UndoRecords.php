<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\NameGate;
use App\Domain\Name\Records;
use App\Models\Record;
use App\Models\Zone;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\RecordType;
use Illuminate\Support\Facades\DB;

/** An act on records is undone by its computed opposite, as far as nobody changed the same records since. */
final readonly class UndoRecords extends Act
{
    use OnRecords;

    public function __construct(
        #[Field(Kind::Line, 'Change', most: 26)]
        public string $act,
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone = '',
    ) {
    }

    public function title(): string
    {
        return 'Undo an earlier change';
    }

    public function landing(): string
    {
        return "/name/zone/$this->zone";
    }

    public function apply(Ledger $ledger): void
    {
        $rows = DB::table('history')->where('act_id', $this->act)->orderByDesc('id')->get();
        $rows->isNotEmpty() ?: $ledger->refuse('gone', 'That change is not in the history');
        $mine = $ledger->person === null || $rows[0]->person_id === $ledger->person->id || $ledger->person->operatesAll();
        $mine ?: $ledger->refuse('not-allowed', 'That change is not available to you');
        $other = $rows->first(fn (object $r): bool => $r->object_type !== Record::noun());
        if ($other !== null) {
            $ledger->refuse(
                'not-only-records',
                "That change also wrote a $other->object_type, $other->title",
                'Undo it where it was made.',
            );
        }
        foreach ($rows as $row) {
            $before = $row->before === null ? null : (array) json_decode((string) $row->before, true);
            $after = $row->after === null ? null : (array) json_decode((string) $row->after, true);
            match ($row->action === '' ? '' : ($before === null ? 'add' : ($after === null ? 'cut' : 'turn'))) {
                'add' => $this->removeAgain($ledger, (string) $row->object_id, $after ?? []),
                'cut' => $this->addAgain($ledger, (string) $row->object_id, $before ?? []),
                default => $this->turnBack($ledger, (string) $row->object_id, $before ?? [], $after ?? []),
            };
        }
    }

    /** @param  array<mixed>  $after */
    private function removeAgain(Ledger $ledger, string $id, array $after): void
    {
        $record = Record::query()->with('zone')->find($id);
        if ($record === null || $record->data !== ($after['data'] ?? null) || $record->owner !== ($after['owner'] ?? null)) {
            $ledger->refuse(
                'changed-since',
                ($record === null ? (string) ($after['owner'] ?? 'A record') : $record->line()).' was changed since',
                'Undo the later change first.',
            );
        }
        NameGate::check($ledger, $record->zone, Name::parse($record->owner), $record->type);
        Records::remove($record);
    }

    /** @param  array<mixed>  $before */
    private function addAgain(Ledger $ledger, string $id, array $before): void
    {
        $text = static fn (string $key): string => is_scalar($before[$key] ?? null) ? (string) $before[$key] : '';
        $zone = Zone::query()->find($text('zone_id')) ?? $ledger->refuse('zone-gone', 'The zone of that record is gone');
        try {
            $owner = Name::parse($text('owner'));
            $data = RdataTypes::fromText(RecordType::of((int) $text('type')), Fields::ofLine($text('data')));
        } catch (Malformed $e) {
            $ledger->refuse('unreadable', "The history of that record cannot be read: {$e->getMessage()}");
        }
        NameGate::check($ledger, $zone, $owner, $data->type()->number);
        Records::add($ledger, $zone, $owner, isset($before['ttl']) ? (int) $text('ttl') : null, $data, $id, $text('address_id') ?: null);
    }

    /**
     * @param  array<mixed>  $before
     * @param  array<mixed>  $after
     */
    private function turnBack(Ledger $ledger, string $id, array $before, array $after): void
    {
        $record = Record::query()->with('zone')->find($id)
            ?? $ledger->refuse('changed-since', 'A record of that change is gone', 'Undo the later change first.');
        NameGate::check($ledger, $record->zone, Name::parse($record->owner), $record->type);
        foreach (['owner', 'data', 'ttl'] as $column) {
            if (array_key_exists($column, $after) && $after[$column] !== $record->$column) {
                $ledger->refuse('changed-since', "{$record->line()} was changed since", 'Undo the later change first.');
            }
        }
        $ttl = array_key_exists('ttl', $before) ? (is_numeric($before['ttl']) ? (int) $before['ttl'] : null) : $record->ttl;
        if (! isset($before['owner']) && ! isset($before['data'])) {
            Records::level($record->zone, [$record], $record->type, $ttl);

            return;
        }
        try {
            $owner = Name::parse(is_string($before['owner'] ?? null) ? $before['owner'] : $record->owner);
            $data = RdataTypes::fromText(
                RecordType::of($record->type),
                Fields::ofLine(is_string($before['data'] ?? null) ? $before['data'] : $record->data),
            );
        } catch (Malformed $e) {
            $ledger->refuse('unreadable', "The history of that record cannot be read: {$e->getMessage()}");
        }
        NameGate::check($ledger, $record->zone, $owner, $record->type);
        if ($record->address_id !== null) {
            $ledger->refuse('belongs-to-host', "{$record->line()} belongs to a placed host", 'Change the host back, and its names follow.');
        }
        Records::change($ledger, $record, $owner, $ttl, $data);
    }
}
