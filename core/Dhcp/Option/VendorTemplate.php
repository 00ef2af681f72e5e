<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Net\Family;

/**
 * What one maker's devices read inside an encapsulated option: option 43 for a vendor class (RFC 2132 §8.4), option 125 (RFC 3925 §4) or,
 * of IPv6, 17 (RFC 8415 §21.17) for an enterprise number. What is typed by it becomes sub-options with their types, so that another
 * template changes how bytes are read and never what is sent.
 */
final readonly class VendorTemplate
{
    /** @param  array<int, SubDefinition>  $subs  by code */
    public function __construct(
        public string $name,
        public Family $family,
        /** what option 60 of its clients starts with; blank where the enterprise number tells */
        public string $vendorClass,
        public ?int $enterprise,
        public array $subs,
    ) {
    }

    /** The option that carries it. */
    public function code(): int
    {
        return match (true) {
            $this->family === Family::V6 => 17,
            $this->enterprise !== null => 125,
            default => OptionTable::VENDOR,
        };
    }

    /** Is it for a client that says this of itself? */
    public function isFor(string $vendorClass): bool
    {
        return $this->vendorClass !== '' && str_starts_with($vendorClass, $this->vendorClass);
    }

    /**
     * Values by code, as typed, each several apart by commas or lines.
     *
     * @param  array<int|string, string>  $typed
     * @return list<string> values of the option, as they are kept; none where nothing was typed
     *
     * @throws BadOption
     */
    public function values(array $typed): array
    {
        $lines = [];
        foreach ($typed as $code => $text) {
            if (trim($text) === '') {
                continue;
            }
            $sub = $this->subs[(int) $code] ?? throw BadOption::value(
                (string) $code, "a code of $this->name: ".implode(', ', array_keys($this->subs)),
            );
            $lines[(int) $code] = $this->line($sub, trim($text));
        }
        ksort($lines);
        $lines = array_values($lines);

        return $this->enterprise === null || $lines === [] ? $lines : ["$this->enterprise: ".implode(' ', $lines)];
    }

    private function line(SubDefinition $sub, string $text): string
    {
        $shape = $sub->shape->of($this->family);
        $values = $sub->shape === OwnShape::Text ? [$text] : OptionTable::splitAs($shape, $text);
        try {
            $bytes = $shape->encode($values);
        } catch (BadOption $e) {
            throw BadOption::value($text, "$sub->name ($sub->code) holds {$sub->shape->words()}: ".$e->getMessage());
        }
        $joined = implode(',', $values);
        $typed = match ($sub->shape) {
            OwnShape::Address, OwnShape::Addresses => "address:$joined",
            OwnShape::Byte => "uint8:$joined",
            OwnShape::Short, OwnShape::Shorts => "uint16:$joined",
            OwnShape::Long => "uint32:$joined",
            // In one line with others a text is told from what follows by having no blank.
            OwnShape::Text => $this->enterprise === null || preg_match('/\s/', $text) !== 1 ? "text:$text" : null,
            default => null,
        };

        return "$sub->code=".($typed ?? 'hex:'.bin2hex($bytes));
    }

    /**
     * The bytes of the option, sub-option by sub-option, as a device of this maker reads them.
     *
     * @return list<array{code: int, name: string, words: string, fault: ?string}>
     *
     * @throws BadOption where a length byte lies
     */
    public function read(string $payload): array
    {
        $inner = $this->inner($payload);
        $reader = new ByteReader($inner);
        $wide = $this->family === Family::V6;
        $found = [];
        try {
            while (! $reader->atEnd()) {
                $code = $wide ? $reader->uint16() : $reader->uint8();
                if (! $wide && $code === 255) {
                    break;
                }
                if (! $wide && $code === 0) {
                    continue;
                }
                $found[] = $this->sub($code, $reader->take($wide ? $reader->uint16() : $reader->uint8()));
            }
        } catch (MalformedBytes $e) {
            throw BadOption::bytes($e->offset, "a whole sub-option: {$e->expected}; a length byte lies");
        }

        return $found;
    }

    /** The same in one line. */
    public function words(string $payload): string
    {
        try {
            return implode('; ', array_map(
                static fn (array $s): string => "$s[name]: ".($s['fault'] === null ? $s['words'] : "$s[words] ($s[fault])"),
                $this->read($payload),
            ));
        } catch (BadOption $e) {
            return Hex::spaced($payload)." ({$e->getMessage()})";
        }
    }

    /**
     * What the fields of a form hold for bytes that are sent.
     *
     * @return array<int, string> values by code
     */
    public function typed(string $payload): array
    {
        $typed = [];
        foreach ($this->read($payload) as $sub) {
            $sub['fault'] === null && isset($this->subs[$sub['code']]) ? $typed[$sub['code']] = $sub['words'] : null;
        }

        return $typed;
    }

    /** @return array{code: int, name: string, words: string, fault: ?string} */
    private function sub(int $code, string $data): array
    {
        $known = $this->subs[$code] ?? null;
        if ($known === null) {
            return [
                'code' => $code, 'name' => "sub-option $code", 'words' => Hex::spaced($data), 'fault' => "no sub-option of $this->name",
            ];
        }
        try {
            $words = implode(', ', $known->shape->of($this->family)->decode($data));

            return ['code' => $code, 'name' => $known->name, 'words' => $words, 'fault' => null];
        } catch (BadOption $e) {
            return ['code' => $code, 'name' => $known->name, 'words' => Hex::spaced($data), 'fault' => $e->getMessage()];
        }
    }

    /** The sub-options of this maker among those of others. */
    private function inner(string $payload): string
    {
        if ($this->enterprise === null) {
            return $payload;
        }
        $reader = new ByteReader($payload);
        $inner = '';
        try {
            while (! $reader->atEnd()) {
                $number = $reader->uint32();
                $data = $reader->take($this->family === Family::V6 ? $reader->remaining() : $reader->uint8());
                $inner .= $number === $this->enterprise ? $data : '';
            }
        } catch (MalformedBytes $e) {
            throw BadOption::bytes($e->offset, "a whole enterprise: {$e->expected}; a length byte lies");
        }

        return $inner;
    }
}
