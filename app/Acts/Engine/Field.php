<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Models\Model;

/**
 * Declares one input of an act, on its constructor's parameter: what it holds, how long or large it may be, how it is called and explained.
 * Form, validation, draft and console are made from it.
 */
#[\Attribute(\Attribute::TARGET_PARAMETER)]
final readonly class Field
{
    /** How many ids or texts one act takes. */
    public const MANY = 200_000;

    /**
     * @param  int  $most  characters of a text, or the largest number
     * @param  list<string>  $choices
     * @param  class-string<Model>|null  $of  the kind of object that an id means
     */
    public function __construct(
        public Kind $kind,
        public string $label,
        public string $help = '',
        public int $most = 255,
        public int $least = 0,
        public array $choices = [],
        public ?string $of = null,
        public string $example = '',
        /** a dash empties the value */
        public bool $dash = false,
        /** a blank that was sent is a value of its own, and not "leave it" */
        public bool $blank = false,
    ) {
    }

    /**
     * A value as it came from a form, a program or a draft, in the type of the parameter.
     *
     * @throws NotAccepted
     */
    public function read(mixed $value): mixed
    {
        return match ($this->kind) {
            Kind::Line, Kind::Text, Kind::Secret => $this->text($value),
            Kind::Choice => $this->choice($this->text($value)),
            Kind::Number => $this->number($value),
            Kind::Flag => $this->flag($value),
            Kind::Id, Kind::NewId => $this->id($this->text($value)),
            Kind::Ids => array_map($this->id(...), $this->several($value, '/[\s,]+/')),
            Kind::Texts => $this->several($value, '/[\s,;]+/'),
            Kind::Lines => $this->several($value, '/\s*[\n,;]\s*/'),
            Kind::Map => $this->map($value),
        };
    }

    /** How many characters a field of a form takes; null where it is not a text. */
    public function mostTyped(): ?int
    {
        return in_array($this->kind, [Kind::Line, Kind::Text, Kind::Secret], true) ? $this->most : null;
    }

    private function text(mixed $value): string
    {
        if (is_array($value)) {
            throw new NotAccepted('one value belongs here, not a list');
        }
        $text = is_bool($value) ? ($value ? '1' : '0') : (is_scalar($value) ? (string) $value : '');
        if (! mb_check_encoding($text, 'UTF-8')) {
            throw new NotAccepted('the text is not UTF-8');
        }
        // A form that is sent ends its lines otherwise than a script that sends the same form.
        $text = $this->kind === Kind::Text ? str_replace(["\r\n", "\r"], "\n", $text) : $text;
        $text = $this->kind === Kind::Secret ? $text : trim($text);
        $odd = $this->kind === Kind::Text ? '/[\x00-\x08\x0b\x0e-\x1f\x7f]/' : '/[\x00-\x1f\x7f]/';
        if (preg_match($odd, $text, $found) === 1) {
            throw new NotAccepted(
                $found[0] === "\n"
                    || $found[0] === "\r" ? 'one line belongs here' : sprintf('a control character (%02x) stands in it', ord($found[0])),
            );
        }
        $length = mb_strlen($text);
        if ($length > $this->most) {
            throw new NotAccepted(number_format($length).' characters are too long; at most '.number_format($this->most).' fit');
        }

        return $text;
    }

    private function choice(string $word): string
    {
        if (! in_array($word, $this->choices, true)) {
            throw new NotAccepted(
                '"'
                    .mb_strimwidth($word, 0, 40, '…')
                    .'" is none of '
                    .implode(', ', array_filter($this->choices, static fn (string $c): bool => $c !== '')),
            );
        }

        return $word;
    }

    private function number(mixed $value): int
    {
        $text = $this->text($value);
        if (preg_match('/\A-?\d{1,18}\z/', $text) !== 1) {
            throw new NotAccepted('"'.mb_strimwidth($text, 0, 40, '…').'" is no whole number');
        }
        if ((int) $text < $this->least || (int) $text > $this->most) {
            throw new NotAccepted("$text is not from $this->least to $this->most");
        }

        return (int) $text;
    }

    private function flag(mixed $value): bool
    {
        $text = strtolower($this->text($value));

        return match ($text) {
            '1', 'true', 'on', 'yes' => true,
            '', '0', 'false', 'off', 'no' => false,
            default => throw new NotAccepted('"'.mb_strimwidth($text, 0, 40, '…').'" is neither yes nor no'),
        };
    }

    private function id(string $text): string
    {
        if ($this->dash && $text === '-') {
            return $text;
        }
        if (preg_match('/\A[0-9A-HJKMNP-TV-Z]{26}\z/i', $text) !== 1) {
            throw new NotAccepted($this->kind === Kind::NewId ? 'this is no id' : 'there is no "'.mb_strimwidth($text, 0, 40, '…').'"');
        }

        return strtoupper($text);
    }

    /** @return list<string> */
    private function several(mixed $value, string $apart): array
    {
        if (! is_array($value)) {
            // "10.1.0.0 255.255.0.0" is one prefix and "10.1.0.5 - 10.1.0.9" one range.
            $text = (string) preg_replace(
                ['/(\d+(?:\.\d+){3})[ \t]+(255\.\d+\.\d+\.\d+)/', '/(?<=[\da-fA-F:])[ \t]*-[ \t]*(?=[\da-fA-F:])/'],
                ['$1|$2', '-'],
                (new self(Kind::Text, $this->label, most: 20_000_000))->text($value),
            );
            $value = array_map(
                static fn (string $t): string => strtr($t, '|', ' '),
                preg_split($apart, trim($text), -1, PREG_SPLIT_NO_EMPTY) ?: [],
            );
        }
        if (count($value) > self::MANY) {
            throw new NotAccepted(number_format(count($value)).' are too many; at most '.number_format(self::MANY).' at once');
        }
        $read = [];
        foreach ($value as $one) {
            $read[] = (new self(Kind::Text, $this->label, most: max($this->most, 30)))->text($one);
        }

        return $read;
    }

    /** @return array<string, string> */
    private function map(mixed $value): array
    {
        if (! is_array($value)) {
            if ($value === null || $value === '') {
                return [];
            }
            throw new NotAccepted('values by name belong here');
        }
        $read = [];
        foreach ($value as $key => $one) {
            $read[(string) $key] = (new self(Kind::Line, $this->label, most: $this->most))->text($one);
        }

        return $read;
    }
}
