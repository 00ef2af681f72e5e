<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Dns\Rdata\Aaaa;
use HarborPost\Core\Dns\Rdata\Cname;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\Ptr;
use HarborPost\Core\Dns\Rdata\Rdata;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Net\Address;

/**
 * Reads a zone file (RFC 1035 §5, RFC 2308 §4) one record at a time. A faulty entry is reported with line and column and left
 * out; the ones after it are read all the same.
 *
 * Read on purpose although not in the standard, with a note: times with units, TTL and class in either order are standard.
 * $INCLUDE is followed only within a bundle of files that came together; it never reads the disk of the machine that runs this.
 */
final class ZoneFileReader
{
    private Name $origin;

    /** the origin is outside the zone, so relative names may be */
    private bool $strays = false;

    private ?Name $owner = null;

    /** the line whose owner could not be read, while later lines repeat it */
    private ?int $lostOwner = null;

    /** the line whose $ORIGIN could not be read, until another is set: a relative name has no meaning */
    private ?int $lostOrigin = null;

    private ?int $defaultTtl = null;

    private ?int $lastTtl = null;

    private ?string $ownerText = null;

    private int $unitsNoted = 0;

    private const REMEMBERED = 20000;

    /** @var array<string, Name> the text after an owner's first label → the name it is, below the present */
    private array $tails = [];

    /** How deep files may include files. */
    private const DEPTH = 8;

    /** @var list<Token>|null the words of an inclusion that is to be read next */
    private ?array $include = null;

    /**
     * @param  \Closure(Fault): void  $report
     * @param  ?\Closure(string $name): (iterable<string>|null)  $bundle  lines of a file that came along with this one; null when it did
     *     not. Without a bundle nothing is included: the machine's own disk is never read.
     * @param  list<string>  $within  files that include this one
     */
    public function __construct(
        private readonly Name $zone,
        private readonly \Closure $report,
        private readonly ?\Closure $bundle = null,
        private readonly array $within = [],
    ) {
        $this->origin = $zone;
    }

    /**
     * @param  iterable<string>  $lines
     * @return \Generator<int, Record> line → record
     */
    public function read(iterable $lines): \Generator
    {
        $tokens = new Tokens($this->report);
        $number = 0;
        foreach ($lines as $text) {
            $number++;
            $quick = $tokens->isOpen() || $this->lostOrigin !== null ? null : $this->quick($text);
            if ($quick !== null) {
                yield $number => $quick;

                continue;
            }
            $entry = $tokens->take($text, $number);
            if ($entry === null) {
                continue;
            }
            [$line, $blank, $words, $faulty] = $entry;
            if (! $blank && $words[0]->text !== '' && $words[0]->text[0] === '$' && ! $words[0]->quoted) {
                $this->directive($words);
                if ($this->include !== null) {
                    foreach ($this->included($this->include) as $record) {
                        yield $line => $record;
                    }
                    $this->include = null;
                }

                continue;
            }
            if ($faulty) {
                // What is wrong with the line is said; its owner counts for the lines that repeat it.
                if (! $blank) {
                    $this->takeOwner($words[0]);
                }

                continue;
            }
            $record = $this->record($blank, $words);
            if ($record !== null) {
                yield $line => $record;
            }
        }
        $tokens->end();
    }

    /**
     * The short way for the bulk of large files: an owner, perhaps a TTL and IN, an address or one name. Anything else, and any
     * fault, is left to the careful way, which says where it is.
     */
    private function quick(string $line): ?Record
    {
        if (
            preg_match(
                '/^([A-Za-z0-9_*][A-Za-z0-9_*.\/-]*+)[ \t]++(?:(\d{1,9})[ \t]++)?(?:IN[ \t]++)?(AAAA|A|CNAME|PTR)[ '
                    .'\t]++([A-Za-z0-9:._\/-]++)\s*+$/D',
                $line,
                $m,
            ) !== 1
        ) {
            return null;
        }
        if ($m[1] !== $this->ownerText) {
            $owner = $this->quickOwner($m[1]);
            if ($owner === null || ($m[1][-1] === '.' || $this->strays) && ! $owner->isIn($this->zone)) {
                return null;
            }
            $this->owner = $owner;
            $this->lostOwner = null;
            $this->ownerText = $m[1];
        }
        $ttl = $m[2] !== '' ? (int) $m[2] : $this->defaultTtl ?? $this->lastTtl;
        $data = $m[3] === 'A' || $m[3] === 'AAAA' ? self::quickAddress($m[3], $m[4]) : $this->quickName($m[3], $m[4]);
        if ($ttl === null || $data === null || $this->owner === null) {
            return null;
        }
        $this->lastTtl = $ttl;

        return new Record($this->owner, $ttl, $data);
    }

    /** Most owners of a large zone differ in their first label only: what follows it is read once. */
    private function quickOwner(string $text): ?Name
    {
        $dot = strpos($text, '.');
        if ($dot === false || $dot === 0 || $dot > 63 || $dot === strlen($text) - 1) {
            return Name::ordinary($text, $this->origin);
        }
        $rest = substr($text, $dot + 1);
        if (! isset($this->tails[$rest])) {
            $tail = Name::ordinary($rest, $this->origin);
            if ($tail === null) {
                return null;
            }
            $this->tails = count($this->tails) < self::REMEMBERED ? $this->tails : [];
            $this->tails[$rest] = $tail;
        }

        return $this->tails[$rest]->below(substr($text, 0, $dot));
    }

    private static function quickAddress(string $type, string $text): A|Aaaa|null
    {
        $bytes = @inet_pton($text);
        if ($bytes === false || strlen($bytes) !== ($type === 'A' ? 4 : 16)) {
            return null;
        }

        return $type === 'A' ? A::of(Address::fromBytes($bytes)) : Aaaa::of(Address::fromBytes($bytes));
    }

    private function quickName(string $type, string $text): Ptr|Cname|null
    {
        $target = Name::ordinary($text, $this->origin);

        return $target === null ? null : ($type === 'PTR' ? new Ptr($target) : new Cname($target));
    }

    /** @param  non-empty-list<Token>|list<Token>  $words */
    private function directive(array $words): void
    {
        $value = $words[1] ?? null;
        switch (strtoupper($words[0]->text)) {
            case '$ORIGIN':
                $origin = $value === null
                    || $this->lostOrigin !== null
                        && ! str_ends_with($value->text, '.') ? null : Name::tryParse($value->text, $this->origin);
                if ($origin === null) {
                    $this->fault(
                        'bad-origin',
                        $value ?? $words[0],
                        '$ORIGIN takes a name; until the next one, relative names are refused',
                        'RFC 1035 §5.1',
                    );
                    $this->lostOrigin = $words[0]->line;
                    $this->ownerText = null;

                    return;
                }
                $this->noMore($words);
                $this->lostOrigin = null;
                $this->origin = $origin;
                $this->strays = ! $this->origin->isIn($this->zone);
                $this->ownerText = null;
                $this->tails = [];

                return;
            case '$TTL':
                $ttl = $value === null ? null : Ttl::tryParse($value->text);
                if ($ttl === null) {
                    $this->fault('bad-ttl', $value ?? $words[0], '$TTL takes a time in seconds', 'RFC 2308 §4');

                    return;
                }
                $this->defaultTtl = $ttl->seconds;
                $this->noteUnits($value);
                $this->noMore($words);

                return;
            case '$INCLUDE':
                $this->bundle === null || $value === null
                    ? $this->fault(
                        'include-refused',
                        $words[0],
                        '$INCLUDE is followed only to files that were uploaded with this one',
                        'RFC 1035 §5.1',
                    )
                        : $this->include = $words;

                return;
            default:
                $this->fault(
                    'unknown-directive',
                    $words[0],
                    "\"{$words[0]->text}\" is no directive of the standard; \$ORIGIN and \$TTL are",
                    'RFC 1035 §5.1',
                );
        }
    }

    /** @param  list<Token>  $words */
    private function noMore(array $words): void
    {
        if (isset($words[2])) {
            $this->fault(
                'extra-word',
                $words[2],
                "nothing more was expected behind {$words[0]->text}, found \"{$words[2]->text}\"",
                'RFC 1035 §5.1',
            );
        }
    }

    /**
     * The records of an included file. Its origin may be given and ends with it; the owner before it is not repeated inside
     * (RFC 1035 §5.1).
     *
     * @param  list<Token>  $words
     * @return \Generator<int, Record>
     */
    private function included(array $words): \Generator
    {
        $name = $words[1]->text;
        $origin = isset($words[2]) ? Name::tryParse($words[2]->text, $this->origin) : $this->origin;
        if ($origin === null) {
            $this->fault('bad-origin', $words[2], 'the second word of $INCLUDE is the origin, a name', 'RFC 1035 §5.1');

            return;
        }
        if (in_array($name, $this->within, true) || count($this->within) >= self::DEPTH) {
            $this->fault(
                'include-loop',
                $words[1],
                in_array($name, $this->within, true) ? "\"$name\" includes itself" : 'files include files more than '.self::DEPTH.' deep',
                'RFC 1035 §5.1',
            );

            return;
        }
        $lines = $this->bundle === null ? null : ($this->bundle)($name);
        if ($lines === null) {
            $this->fault('include-missing', $words[1], "\"$name\" was not uploaded with this file", 'RFC 1035 §5.1');

            return;
        }
        $at = $words[1];
        $inner = new self($this->zone, function (Fault $fault) use ($name, $at): void {
            ($this->report)(
                new Fault(
                    $fault->code,
                    $fault->severity,
                    $at->line,
                    $at->column,
                    "in \"$name\", line $fault->line, column $fault->column: $fault->message",
                    $fault->standard,
                    $fault->owner,
                    $fault->type,
                ),
            );
        }, $this->bundle, [...$this->within, $name]);
        $inner->origin = $origin;
        $inner->strays = ! $origin->isIn($this->zone);
        $inner->defaultTtl = $this->defaultTtl;
        $inner->lastTtl = $this->lastTtl;
        foreach ($inner->read($lines) as $record) {
            yield $record;
        }
        $this->ownerText = null;
    }

    /** @param  list<Token>  $words */
    private function record(bool $blank, array $words): ?Record
    {
        $at = 0;
        if (! $blank && ! $this->takeOwner($words[$at++])) {
            return null;
        }
        if ($this->lostOwner !== null) {
            $this->fault(
                'owner-lost',
                $words[0],
                "it repeats the owner of line $this->lostOwner, which could not be read",
                'RFC 1035 §5.1',
            );

            return null;
        }
        if ($this->owner === null) {
            $this->fault('no-owner', $words[0], 'the first record has no owner name to repeat', 'RFC 1035 §5.1');

            return null;
        }
        $ttl = null;
        $classed = false;
        for (; isset($words[$at]); $at++) {
            $text = $words[$at]->text;
            if ($ttl === null && $text !== '' && $text[0] >= '0' && $text[0] <= '9' && ($parsed = Ttl::tryParse($text)) !== null) {
                $ttl = $parsed->seconds;
                $this->noteUnits($words[$at]);
            } elseif (! $classed && (strcasecmp($text, 'IN') === 0 || strcasecmp($text, 'CLASS1') === 0)) {
                $classed = true;
            } else {
                break;
            }
        }
        $typeWord = $words[$at] ?? null;
        if ($typeWord === null) {
            $this->fault('no-type', $words[count($words) - 1], 'the record type is missing', 'RFC 1035 §5.1', $this->owner);

            return null;
        }
        $type = $this->type($typeWord);

        return $type === null ? null : $this->assemble($type, $typeWord, $ttl, array_slice($words, $at + 1));
    }

    private function takeOwner(Token $word): bool
    {
        if ($word->text === $this->ownerText) {
            return true;
        }
        // Lines that repeat this owner belong to it, also when it cannot be read: never to the one before.
        $this->lostOwner = $word->line;
        $this->ownerText = null;
        if ($this->lostOrigin !== null && ! str_ends_with($word->text, '.')) {
            $this->fault(
                'origin-lost',
                $word,
                "a relative name below the \$ORIGIN of line $this->lostOrigin, which could not be read",
                'RFC 1035 §5.1',
            );

            return false;
        }
        try {
            $owner = Name::parse($word->text, $this->origin);
        } catch (Malformed $e) {
            $this->fault('bad-name', $word, $e->getMessage(), $e->standard, shift: $e->offset);

            return false;
        }
        if (! $owner->isIn($this->zone)) {
            $this->fault('owner-outside', $word, "$owner is outside the zone $this->zone", 'RFC 1034 §4.2', $owner);

            return false;
        }
        $this->lostOwner = null;
        $this->owner = $owner;
        $this->ownerText = $word->text;

        return true;
    }

    private function type(Token $word): ?RecordType
    {
        if (in_array(strtoupper($word->text), ['CH', 'HS', 'CS'], true) || preg_match('/\ACLASS\d{1,5}\z/i', $word->text) === 1) {
            $this->fault('class-not-in', $word, "class {$word->text}: only class IN is kept", 'RFC 1035 §5.2', $this->owner);

            return null;
        }
        $type = RecordType::tryParse($word->text);
        if ($type === null) {
            $this->fault(
                'type-unknown',
                $word,
                "\"{$word->text}\" is neither a TTL, a class nor a record type",
                'RFC 3597 §5',
                $this->owner,
            );
        }

        return $type;
    }

    /** @param  list<Token>  $words  the data */
    private function assemble(RecordType $type, Token $typeWord, ?int $ttl, array $words): ?Record
    {
        $texts = $quoted = [];
        foreach ($words as $word) {
            $texts[] = $word->text;
            $quoted[] = $word->quoted;
        }
        if (! $type->isData()) {
            $this->fault(
                'type-meta',
                $typeWord,
                "$type is no type of data: it only stands in questions and messages",
                'RFC 6895 §3.1',
                $this->owner,
                $type,
            );

            return null;
        }
        if (! RdataTypes::isBuilt($type) && ($texts[0] ?? null) !== '\\#' && ! str_starts_with(strtoupper($typeWord->text), 'TYPE')) {
            $this->fault(
                'type-not-built',
                $typeWord,
                "$type is a standard type that is not read yet in its own form; write it as TYPE{$type->number} \\# LENGTH HEX",
                'RFC 3597 §5',
                $this->owner,
                $type,
            );

            return null;
        }
        try {
            $data = RdataTypes::fromText($type, new Fields($texts, $this->origin, $quoted));
        } catch (Malformed $e) {
            $this->fault(
                'bad-data',
                $words[$e->field ?? 0] ?? $typeWord,
                $e->getMessage(),
                $e->standard,
                $this->owner,
                $type,
                $e->field === null ? 0 : $e->offset,
            );

            return null;
        }
        if ($this->lostOrigin !== null && $texts !== [] && self::namesRelatively($data, $this->origin, $texts)) {
            $this->fault(
                'origin-lost',
                $words[0],
                "the data may name something below the \$ORIGIN of line $this->lostOrigin, which could not be read",
                'RFC 1035 §5.1',
                $this->owner,
                $type,
            );

            return null;
        }
        $ttl ??= $this->defaultTtl ?? $this->lastTtl ?? ($data instanceof Soa ? $data->negativeTtl : null);
        if ($ttl === null) {
            $this->fault('no-ttl', $typeWord, 'no TTL here, none before, and no $TTL', 'RFC 2308 §4', $this->owner, $type);

            return null;
        }
        $this->lastTtl = $ttl;

        return $this->owner === null ? null : new Record($this->owner, $ttl, $data);
    }

    /**
     * Does the data change with the origin? Then it holds a relative name.
     *
     * @param  list<string>  $texts
     */
    private static function namesRelatively(Rdata $data, Name $origin, array $texts): bool
    {
        try {
            return RdataTypes::fromText($data->type(), new Fields($texts, $origin->below('x') ?? Name::root()))
                ->canonical() !== RdataTypes::fromText($data->type(), new Fields($texts, $origin))->canonical();
        } catch (Malformed) {
            return true;
        }
    }

    /** Said once a file, or a large file would drown in it. */
    private function noteUnits(?Token $word): void
    {
        if ($word !== null && $this->unitsNoted === 0 && Ttl::hasUnits($word->text)) {
            $this->unitsNoted = 1;
            ($this->report)(
                new Fault(
                    'time-with-units',
                    'note',
                    $word->line,
                    $word->column,
                    "times with units such as {$word->text} are read, but the standard has seconds only",
                    'RFC 1035 §5.1',
                ),
            );
        }
    }

    private function fault(
        string $code,
        Token $at,
        string $message,
        string $standard,
        ?Name $owner = null,
        ?RecordType $type = null,
        int $shift = 0,
    ): void {
        ($this->report)(
            new Fault(
                $code,
                'error',
                $at->line,
                $at->column + min($shift, mb_strlen($at->text)),
                $message,
                $standard,
                $owner === null ? null : (string) $owner->lower(),
                $type === null ? null : (string) $type,
            ),
        );
    }
}
