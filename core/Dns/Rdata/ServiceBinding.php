<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;

/**
 * What SVCB and HTTPS share (RFC 9460 §2): priority, target, and parameters in the order of their keys, each once. Priority 0 is an
 * alias and has no parameters.
 */
trait ServiceBinding
{
    /** @param  array<int, string>  $params  key → value as on the wire, keys rising */
    private function __construct(public readonly int $priority, public readonly Name $target, public readonly array $params)
    {
    }

    public static function fromText(Fields $fields): self
    {
        $priority = $fields->number('the priority', 16);
        $target = $fields->name('the target');
        $params = [];
        while (! $fields->atEnd()) {
            [$name, $value] = [...explode('=', $fields->raw('a parameter'), 2), null];
            // A quoted value is a field of its own: key="value" comes as key= and what was in quotes.
            if ($value === '') {
                $value = $fields->isQuoted()
                    ? $fields->raw("the value of $name")
                    : throw $fields->fault("$name= needs a value right behind it; an empty one is written in quotes", 'RFC 9460 §2.1');
            }
            $key = ServiceParams::key((string) $name) ?? throw $fields->fault("\"$name\" is no service parameter", 'RFC 9460 §2.1');
            if (isset($params[$key])) {
                throw $fields->fault("$name stands twice", 'RFC 9460 §2.1');
            }
            try {
                $params[$key] = ServiceParams::wire($key, $value);
            } catch (Malformed $e) {
                throw $fields->fault($e->getMessage(), $e->standard);
            }
        }
        ksort($params);
        self::check($priority, $params);

        return new self($priority, $target, $params);
    }

    public static function fromWire(ByteReader $reader): self
    {
        $priority = $reader->uint16();
        $target = Name::fromWire($reader);
        $params = [];
        $last = -1;
        while (! $reader->atEnd()) {
            $at = $reader->position();
            $key = $reader->uint16();
            if ($key <= $last) {
                throw MalformedBytes::at($at, 'parameters with rising keys');
            }
            $last = $key;
            $params[$key] = $reader->take($reader->uint16());
            if (! ServiceParams::fits($key, $params[$key])) {
                throw MalformedBytes::at($at, 'a value of '.ServiceParams::name($key).' as RFC 9460 has it');
            }
        }

        return new self($priority, $target, $params);
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        $wire = pack('n', $this->priority).$this->target->wire;
        foreach ($this->params as $key => $value) {
            $wire .= pack('nn', $key, strlen($value)).$value;
        }

        return $wire;
    }

    public function canonical(): string
    {
        return $this->wire();
    }

    public function text(): string
    {
        $text = "$this->priority {$this->target->lower()}";
        foreach ($this->params as $key => $value) {
            $text .= ' '.ServiceParams::text($key, $value);
        }

        return $text;
    }

    public function target(): Name
    {
        return $this->target;
    }

    /** @param  array<int, string>  $params */
    private static function check(int $priority, array $params): void
    {
        if ($priority === 0 && $params !== []) {
            throw Malformed::because('priority 0 is an alias, which has no parameters', 'RFC 9460 §2.4.2')->inField(2);
        }
        foreach (str_split($params[ServiceParams::MANDATORY] ?? '', 2) as $pair) {
            $key = strlen($pair) === 2 ? ord($pair[0]) << 8 | ord($pair[1]) : null;
            if ($key !== null && ! isset($params[$key])) {
                throw Malformed::because('mandatory names '.ServiceParams::name($key).', which is not there', 'RFC 9460 §8')->inField(2);
            }
        }
        if (isset($params[ServiceParams::NO_DEFAULT_ALPN]) && ! isset($params[ServiceParams::ALPN])) {
            throw Malformed::because('no-default-alpn needs alpn', 'RFC 9460 §7.1.1')->inField(2);
        }
    }

    /** @return list<Address> what the hints of a family say */
    public function hints(Family $family): array
    {
        $value = $this->params[$family === Family::V4 ? ServiceParams::IPV4HINT : ServiceParams::IPV6HINT] ?? '';

        return $value === '' ? [] : array_map(Address::fromBytes(...), str_split($value, $family === Family::V4 ? 4 : 16));
    }
}
