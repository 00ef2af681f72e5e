<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Wire;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Cname;
use HarborPost\Core\Dns\Rdata\HoldsAddress;
use HarborPost\Core\Dns\Rdata\Ns;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Net\Address;

/** What an answer is worth to somebody who walks down from the root (RFC 1034 §5.3.3). */
final readonly class Referral
{
    public const ANSWER = 'answer';

    public const ALIAS = 'alias';

    public const NO_DATA = 'no data';

    public const NO_NAME = 'no such name';

    public const DELEGATION = 'delegation';

    public const LAME = 'lame';

    /**
     * @param  self::*  $kind
     * @param  list<Name>  $servers  of a delegation
     * @param  array<string, list<Address>>  $glue  lower-case server name → addresses that came along
     */
    private function __construct(
        public string $kind,
        public ?Name $zone = null,
        public array $servers = [],
        public array $glue = [],
        public ?Name $alias = null,
    ) {
    }

    /** @param  ?Name  $from  the zone whose servers were asked: a delegation has to lead further down (RFC 9520) */
    public static function of(Message $answer, Question $question, ?Name $from = null): self
    {
        foreach ($answer->answers as $record) {
            if ($record->owner->equals($question->name) && $record->type()->equals($question->type)) {
                return new self(self::ANSWER);
            }
        }
        foreach ($answer->answers as $record) {
            if ($record->owner->equals($question->name) && $record->data instanceof Cname) {
                return self::follow($answer, $question, $record->data->target);
            }
        }
        if ($answer->rcode === Rcode::NxDomain) {
            return new self(self::NO_NAME);
        }
        if ($answer->rcode !== Rcode::NoError) {
            return new self(self::LAME);
        }
        $cut = self::cut($answer, $question, $from);

        return $cut ?? new self($answer->authoritative ? self::NO_DATA : self::LAME);
    }

    /** The chain of aliases within one answer, to its end. */
    private static function follow(Message $answer, Question $question, Name $target): self
    {
        for ($step = 0; $step < 16; $step++) {
            $next = null;
            foreach ($answer->answers as $record) {
                if ($record->owner->equals($target) && $record->type()->equals($question->type)) {
                    return new self(self::ANSWER);
                }
                $next = $record->owner->equals($target) && $record->data instanceof Cname ? $record->data->target : $next;
            }
            if ($next === null) {
                return new self(self::ALIAS, alias: $target);
            }
            $target = $next;
        }

        return new self(self::LAME);
    }

    private static function cut(Message $answer, Question $question, ?Name $from): ?self
    {
        $servers = [];
        $zone = null;
        foreach ($answer->authority as $record) {
            $down = $question->name->isIn($record->owner)
                && ($from === null || $record->owner->isIn($from) && ! $record->owner->equals($from));
            if ($record->data instanceof Ns && $down && ($zone === null || $record->owner->equals($zone))) {
                $zone = $record->owner;
                $servers[] = $record->data->target;
            }
        }
        $glue = [];
        foreach ($answer->additional as $record) {
            if ($record->data instanceof HoldsAddress && $zone !== null) {
                $glue[(string) $record->owner->lower()][] = $record->data->address();
            }
        }

        return $zone === null ? null : new self(self::DELEGATION, $zone, $servers, $glue);
    }

    /** @return list<Record> of a list, those that are NS */
    public static function servers(Message $answer): array
    {
        return array_values(
            array_filter([...$answer->answers, ...$answer->authority], static fn (Record $r): bool => $r->data instanceof Ns),
        );
    }
}
