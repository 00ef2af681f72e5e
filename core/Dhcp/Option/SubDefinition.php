<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Dhcp\BadOption;

/** One sub-option of a vendor's, as its maker describes it: code, name and what it holds. */
final readonly class SubDefinition
{
    public function __construct(public int $code, public string $name, public OwnShape $shape)
    {
    }

    /**
     * Lines as people write them, "CODE NAME: HOLDS": "241 controllers: addresses".
     *
     * @return array<int, self> by code, in their order
     *
     * @throws BadOption with the line at fault
     */
    public static function read(string $text, int $most): array
    {
        $subs = [];
        foreach (preg_split('/\R/', $text) ?: [] as $n => $line) {
            if (trim($line) === '') {
                continue;
            }
            $one = self::line(trim($line), $most, $n + 1);
            $twins = array_filter($subs, static fn (self $s): bool => $s->code === $one->code || strcasecmp($s->name, $one->name) === 0);
            if ($twins !== []) {
                throw BadOption::value(trim($line), 'line '.($n + 1).' has a code or a name that an earlier line has');
            }
            $subs[$one->code] = $one;
        }
        ksort($subs);

        return $subs !== [] ? $subs : throw BadOption::value('', 'at least one line, as "241 controllers: addresses"');
    }

    private static function line(string $line, int $most, int $number): self
    {
        $holds = implode(', ', array_keys(OwnShape::choices()));
        if (preg_match('/\A(\d{1,5})\s+([^:=]{1,60}?)\s*:\s*(\S.*)\z/u', $line, $m) !== 1 || (int) $m[1] < 1 || (int) $m[1] > $most) {
            throw BadOption::value($line, "line $number is not as \"241 controllers: addresses\", with a code from 1 to $most");
        }
        $shape = OwnShape::tryFrom(strtolower($m[3])) ?? array_search(strtolower($m[3]), OwnShape::choices(), true);
        $shape = is_string($shape) ? OwnShape::from($shape) : $shape;

        return $shape instanceof OwnShape
            ? new self((int) $m[1], $m[2], $shape)
            : throw BadOption::value($m[3], "line $number holds one of $holds");
    }

    public function text(): string
    {
        return "$this->code $this->name: {$this->shape->value}";
    }
}
