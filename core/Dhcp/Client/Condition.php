<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Client;

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\V4\Packet;

/** One row of a class: a field, a comparison and a value. Text is compared byte by byte; 0x… are bytes; case of letters counts. */
final readonly class Condition
{
    /** @param  list<string>  $meant  bytes; any of them will do */
    private function __construct(
        public ClientField $field,
        public Comparison $comparison,
        public string $value,
        private array $meant,
    ) {
    }

    /** @throws BadCondition */
    public static function of(string $field, string $comparison, string $value): self
    {
        $of = ClientField::tryFrom($field) ?? throw BadCondition::of("\"$field\" is no field of a client");
        $how = Comparison::tryFrom($comparison) ?? throw BadCondition::of("\"$comparison\" is no comparison");
        $parts = $how === Comparison::In ? (preg_split('/\s*[,\n]\s*/', trim($value), -1, PREG_SPLIT_NO_EMPTY) ?: []) : [$value];
        $meant = array_map(static fn (string $part): string => self::bytes($of, $how, $part), $parts);
        if ($meant === [] || in_array('', $meant, true)) {
            throw BadCondition::of("the value of {$of->label()} is blank");
        }

        return new self($of, $how, $value, $meant);
    }

    public function matches(Packet $packet): bool
    {
        foreach ($this->field->of($packet) as $seen) {
            foreach ($this->meant as $meant) {
                if ($this->comparison->holds($seen, $meant)) {
                    return true;
                }
            }
        }

        return false;
    }

    public function words(): string
    {
        return "{$this->field->label()} {$this->comparison->label()} $this->value";
    }

    /** What the packet says of the field, for people; null when it says nothing. */
    public function seen(Packet $packet): ?string
    {
        $seen = array_map(fn (string $b): string => self::spoken($this->field, $b), $this->field->of($packet));

        return $seen === [] ? null : implode(', ', $seen);
    }

    private static function spoken(ClientField $field, string $bytes): string
    {
        return match (true) {
            $field === ClientField::Mac => implode(':', str_split(bin2hex($bytes), 2)),
            $field === ClientField::Architecture && strlen($bytes) === 2,
            $field === ClientField::Enterprise && strlen($bytes) === 4 => (string) hexdec(bin2hex($bytes)),
            preg_match('/\A[\x20-\x7e]+\z/', $bytes) === 1 => $bytes,
            default => '0x'.bin2hex($bytes),
        };
    }

    private static function bytes(ClientField $field, Comparison $how, string $value): string
    {
        if ($field === ClientField::Mac || str_starts_with($value, '0x')) {
            try {
                $bytes = Hex::parse(str_replace('.', '', $value));
            } catch (MalformedBytes $e) {
                throw BadCondition::of("{$field->label()}: \"$value\": {$e->getMessage()}");
            }
            if ($field === ClientField::Mac && strlen($bytes) > 6) {
                throw BadCondition::of("\"$value\" is longer than a MAC address");
            }
            if ($field === ClientField::Mac && strlen($bytes) < 6 && ! in_array($how, [Comparison::Starts, Comparison::Contains], true)) {
                throw BadCondition::of("\"$value\" is no whole MAC address; for a part of one choose \"starts with\"");
            }

            return $bytes;
        }
        if ($field === ClientField::Architecture || $field === ClientField::Enterprise) {
            $most = $field === ClientField::Architecture ? 0xFFFF : 0xFFFFFFFF;
            if (preg_match('/\A\d{1,10}\z/', trim($value)) !== 1 || (int) $value > $most) {
                throw BadCondition::of("{$field->label()}: \"$value\" is no number from 0 to $most");
            }

            return pack($most === 0xFFFF ? 'n' : 'N', (int) $value);
        }

        return $value;
    }
}
