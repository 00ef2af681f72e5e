<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\Serial;

/**
 * Reads the records of a transfer as they come, whole (RFC 5936) or by steps (RFC 1995 §4), and says when it is complete.
 *
 * Whole: SOA, everything else, SOA. By steps: SOA, then for each step the old SOA, what goes, the new SOA, what comes; SOA.
 * Nothing new: the SOA alone.
 */
final class Transfer
{
    public const WHOLE = 'whole';

    public const STEPS = 'steps';

    public const CURRENT = 'current';

    private ?Record $newest = null;

    private bool $done = false;

    /** @var self::WHOLE|self::STEPS|null */
    private ?string $kind = null;

    /** @var list<Record> of a whole zone, without the SOA */
    private array $records = [];

    /** @var list<array{from: Record, to: Record, removed: list<Record>, added: list<Record>}> */
    private array $steps = [];

    /** the SOA that a step begins with; null between steps */
    private ?Record $from = null;

    private ?Record $to = null;

    /** @var list<Record> */
    private array $removed = [];

    /** @var list<Record> */
    private array $added = [];

    private int $count = 0;

    /** @param  ?Serial  $have  what the asker has already; null asks for the whole zone */
    public function __construct(private readonly ?Serial $have = null, private readonly int $most = 5_000_000)
    {
    }

    /** @throws Malformed when the records are in no order that a transfer may have */
    public function take(Record $record): void
    {
        if ($this->done) {
            throw Malformed::because('records after the end of the transfer', 'RFC 5936 §2.2');
        }
        if (++$this->count > $this->most) {
            throw Malformed::because("more than $this->most records in one transfer", 'RFC 5936 §2.2');
        }
        if ($this->newest === null) {
            $this->newest = $record->data instanceof Soa
                ? $record
                : throw Malformed::because('a transfer that does not start with the SOA', 'RFC 5936 §2.2');

            return;
        }
        $this->kind ??= $record->data instanceof Soa
            && $this->have !== null
            && ! $record->data->serial->equals(self::serial($this->newest)) ? self::STEPS : self::WHOLE;
        $this->kind === self::WHOLE ? $this->takeWhole($record) : $this->takeStep($record);
    }

    /** Everything is there? A lone SOA is complete when it says nothing new, which only the end of the message shows. */
    public function isComplete(bool $endOfMessage = true): bool
    {
        return $this->done
            || $endOfMessage
                && $this->count === 1
                && $this->newest !== null
                && $this->have !== null
                && ! $this->have->isBefore(self::serial($this->newest));
    }

    /** @return self::WHOLE|self::STEPS|self::CURRENT */
    public function kind(): string
    {
        return $this->kind ?? self::CURRENT;
    }

    public function soa(): ?Record
    {
        return $this->newest;
    }

    /** @return list<Record> of a whole zone, the SOA first */
    public function records(): array
    {
        return $this->newest === null ? [] : [$this->newest, ...$this->records];
    }

    /** @return list<array{from: Record, to: Record, removed: list<Record>, added: list<Record>}> oldest first */
    public function steps(): array
    {
        return $this->steps;
    }

    private function takeWhole(Record $record): void
    {
        if ($record->data instanceof Soa) {
            $this->newest !== null
                && $record->data->serial->equals(self::serial($this->newest))
                    ? $this->done = true
                    : throw Malformed::because('a transfer that ends with another SOA than it began with', 'RFC 5936 §2.2');

            return;
        }
        $this->records[] = $record;
    }

    private function takeStep(Record $record): void
    {
        if (! $record->data instanceof Soa) {
            $this->to === null ? $this->removed[] = $record : $this->added[] = $record;

            return;
        }
        if ($this->from === null) {
            $this->from = $record;
        } elseif ($this->to === null) {
            $this->to = $record;
        } else {
            $this->steps[] = ['from' => $this->from, 'to' => $this->to, 'removed' => $this->removed, 'added' => $this->added];
            [$this->removed, $this->added] = [[], []];
            $last = $this->newest !== null && self::serial($this->to)->equals(self::serial($this->newest));
            if (! $last && ! $record->data->serial->equals(self::serial($this->to))) {
                throw Malformed::because('a step that does not begin where the one before it ended', 'RFC 1995 §4');
            }
            $this->done = $last;
            $this->from = $last ? null : $record;
            $this->to = null;
        }
    }

    private static function serial(Record $soa): Serial
    {
        return $soa->data instanceof Soa ? $soa->data->serial : Serial::of(0);
    }
}
