<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Wire;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\Rdata\Opaque;
use HarborPost\Core\Dns\Rdata\Opt;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;

/**
 * A DNS message (RFC 1035 §4). The OPT record is not in a section but in $edns.
 */
final readonly class Message
{
    /** Bytes a UDP message may have without EDNS (RFC 1035 §4.2.1). */
    public const UDP_SIZE = 512;

    /**
     * @param  list<Question>  $questions
     * @param  list<Record>  $answers
     * @param  list<Record>  $authority
     * @param  list<Record>  $additional
     */
    public function __construct(
        public int $id,
        public bool $response = false,
        public Opcode $opcode = Opcode::Query,
        public bool $authoritative = false,
        public bool $truncated = false,
        public bool $recursionDesired = false,
        public bool $recursionAvailable = false,
        public bool $authenticData = false,
        public bool $checkingDisabled = false,
        public Rcode $rcode = Rcode::NoError,
        public array $questions = [],
        public array $answers = [],
        public array $authority = [],
        public array $additional = [],
        public ?Edns $edns = null,
    ) {
    }

    public static function query(int $id, Question $question, bool $recursionDesired = true, ?Edns $edns = new Edns): self
    {
        return new self($id, recursionDesired: $recursionDesired, questions: [$question], edns: $edns);
    }

    /**
     * An answer to this message: same id, question and opcode.
     *
     * @param  list<Record>  $answers
     * @param  list<Record>  $authority
     * @param  list<Record>  $additional
     */
    public function reply(
        Rcode $rcode,
        array $answers = [],
        array $authority = [],
        array $additional = [],
        bool $authoritative = false,
        bool $recursionAvailable = false,
    ): self {
        return new self(
            $this->id, true, $this->opcode, $authoritative, false, $this->recursionDesired, $recursionAvailable, false,
            $this->checkingDisabled,
            $rcode, $this->questions, $answers, $authority, $additional,
            $this->edns === null ? null : new Edns(1232, $this->edns->dnssecOk, 0, $rcode->value >> 4),
        );
    }

    /** The same answer with what a validating server adds: AD, and why it failed (RFC 8914) where the asker speaks EDNS. */
    public function judged(bool $authenticData, ?ExtendedError $error = null): self
    {
        $edns = $this->edns === null || $error === null ? $this->edns : new Edns(
            $this->edns->udpSize, $this->edns->dnssecOk, 0, $this->edns->extendedCode,
            new Opt([...$this->edns->options->options, $error->option()]),
        );

        return new self(
            $this->id, $this->response, $this->opcode, $this->authoritative, $this->truncated, $this->recursionDesired,
            $this->recursionAvailable, $authenticData, $this->checkingDisabled, $this->rcode, $this->questions, $this->answers,
            $this->authority, $this->additional, $edns,
        );
    }

    /** Without what only those who ask for DNSSEC are sent (RFC 4035 §3.2.1), unless it was asked for by its type. */
    public function withoutSignatures(): self
    {
        $asked = $this->questions[0]->type->number ?? 0;
        $made = [RecordType::RRSIG, RecordType::NSEC, RecordType::NSEC3];
        $stays = static fn (Record $r): bool => ! in_array($r->type()->number, $made, true)
            || in_array($asked, [$r->type()->number, RecordType::ANY], true);

        return new self(
            $this->id, $this->response, $this->opcode, $this->authoritative, $this->truncated, $this->recursionDesired,
            $this->recursionAvailable, $this->authenticData, $this->checkingDisabled, $this->rcode, $this->questions,
            array_values(array_filter($this->answers, $stays)), array_values(array_filter($this
                ->authority, $stays)), array_values(array_filter($this->additional, $stays)), $this->edns,
        );
    }

    /** @throws MalformedBytes with the offset; trailing bytes are refused */
    public static function fromWire(string $bytes): self
    {
        $reader = new ByteReader($bytes);
        $id = $reader->uint16();
        $flags = $reader->uint16();
        $counts = [$reader->uint16(), $reader->uint16(), $reader->uint16(), $reader->uint16()];
        $questions = [];
        for ($i = 0; $i < $counts[0]; $i++) {
            $questions[] = new Question(Name::fromWire($reader), RecordType::of($reader->uint16()), $reader->uint16());
        }
        $edns = null;
        $sections = [];
        foreach ([1, 2, 3] as $section) {
            $sections[$section] = [];
            for ($i = 0; $i < $counts[$section]; $i++) {
                $record = self::record($reader);
                if ($record->type()->number !== RecordType::OPT) {
                    $sections[$section][] = $record;
                } elseif ($edns !== null || $section !== 3 || ! $record->owner->isRoot()) {
                    throw MalformedBytes::at($reader->position(), 'at most one OPT record, of the root, in the additional section');
                } else {
                    $edns = Edns::fromRecord($record);
                }
            }
        }
        $reader->expectEnd('the message');
        $opcode = Opcode::tryFrom($flags >> 11 & 0xF) ?? throw MalformedBytes::at(2, 'a known opcode');
        $rcode = Rcode::tryFrom(($edns === null ? 0 : $edns->extendedCode << 4) | $flags & 0xF)
            ?? throw MalformedBytes::at(3, 'a known response code');

        return new self(
            $id, ($flags & 0x8000) !== 0, $opcode, ($flags & 0x400) !== 0, ($flags & 0x200) !== 0, ($flags & 0x100) !== 0,
            ($flags & 0x80) !== 0,
            ($flags & 0x20) !== 0, ($flags & 0x10) !== 0, $rcode, $questions, $sections[1], $sections[2], $sections[3], $edns,
        );
    }

    /**
     * Bytes of at most $limit; what does not fit is left out by whole record sets from the end, and TC is set when that takes
     * away part of an answer or the authority (RFC 2181 §9).
     */
    public function wire(int $limit = 0xFFFF): string
    {
        $opt = $this->edns === null ? '' : $this->encode($this->edns->record(), null, 0);
        $names = new NameCompressor;
        $body = '';
        foreach ($this->questions as $question) {
            $body .= $names->encode($question->name, 12 + strlen($body)).pack('nn', $question->type->number, $question->class);
        }
        $counts = [count($this->questions), 0, 0, 0];
        $truncated = $this->truncated;
        foreach ([1 => $this->answers, 2 => $this->authority, 3 => $this->additional] as $section => $records) {
            foreach (self::sets($records) as $set) {
                $bytes = '';
                foreach ($set as $record) {
                    $bytes .= $this->encode($record, $names, 12 + strlen($body.$bytes));
                }
                if (12 + strlen($body.$bytes.$opt) > $limit) {
                    $truncated = $truncated || $section < 3;
                    break 2;
                }
                $body .= $bytes;
                $counts[$section] += count($set);
            }
        }

        return pack('n', $this->id)
            .$this->flags($truncated)
            .pack('n4', $counts[0], $counts[1], $counts[2], $counts[3] + ($opt === '' ? 0 : 1))
            .$body
            .$opt;
    }

    /** @return list<string> the names of the flags that are set, as they stand in the header */
    public function flagNames(): array
    {
        return array_keys(array_filter([
            'QR' => $this->response, 'AA' => $this->authoritative, 'TC' => $this->truncated, 'RD' => $this->recursionDesired,
            'RA' => $this->recursionAvailable, 'AD' => $this->authenticData, 'CD' => $this->checkingDisabled,
        ]));
    }

    private static function record(ByteReader $reader): Record
    {
        $owner = Name::fromWire($reader);
        $type = RecordType::of($reader->uint16());
        $class = $reader->uint16();
        $ttl = $reader->uint32();
        $length = $reader->uint16();
        $start = $reader->position();
        $reader->take($length);
        try {
            // Classes ANY and NONE stand only in updates, where a record without data means a whole set (RFC 2136 §2.4, §2.5).
            $data = $length === 0
                && ($class === 255 || $class === 254)
                    ? new Opaque($type, '')
                    : RdataTypes::fromWire($type, new ByteReader($reader->whole(), $start, $length));
        } catch (Malformed $e) {
            throw MalformedBytes::at($start, $e->getMessage());
        }

        return new Record($owner, $type->number === RecordType::OPT ? $ttl : ($ttl > 0x7FFFFFFF ? 0 : $ttl), $data, $class);
    }

    private function encode(Record $record, ?NameCompressor $names, int $offset): string
    {
        $owner = $names === null ? $record->owner->wire : $names->encode($record->owner, $offset);
        $data = $record->data->wire($names, $offset + strlen($owner) + 10);

        return $owner.pack('nnNn', $record->type()->number, $record->class, $record->ttl, strlen($data)).$data;
    }

    private function flags(bool $truncated): string
    {
        return pack('n', ($this->response ? 0x8000 : 0) | $this->opcode->value << 11
            | ($this->authoritative ? 0x400 : 0) | ($truncated ? 0x200 : 0)
            | ($this->recursionDesired ? 0x100 : 0) | ($this->recursionAvailable ? 0x80 : 0) | ($this->authenticData ? 0x20 : 0)
            | ($this->checkingDisabled ? 0x10 : 0) | $this->rcode->value & 0xF);
    }

    /**
     * @param  list<Record>  $records
     * @return list<list<Record>> neighbours of one owner and type together
     */
    private static function sets(array $records): array
    {
        $sets = [];
        foreach ($records as $i => $record) {
            $before = $records[$i - 1] ?? null;
            if ($before !== null && $before->type()->equals($record->type()) && $before->owner->equals($record->owner)) {
                $sets[count($sets) - 1][] = $record;
            } else {
                $sets[] = [$record];
            }
        }

        return array_values($sets);
    }
}
