<?php

declare(strict_types=1);

namespace App\Domain\Texts;

use Twig\Error\RuntimeError;

/** What a template may use up while it is rendered: counted at every turn of a loop and every value that is set. */
final class Ticks
{
    private const TURNS = 200_000;

    private const SECONDS = 5.0;

    private const BYTES = 64 << 20;

    private int $turns = 0;

    private readonly float $began;

    private readonly int $memory;

    public function __construct()
    {
        $this->began = microtime(true);
        $this->memory = memory_get_usage();
    }

    public function tick(): void
    {
        $this->turns++;
        if ($this->turns > self::TURNS) {
            throw new RuntimeError('The template turns more than '.number_format(self::TURNS).' times.');
        }
        if (memory_get_usage() - $this->memory > self::BYTES) {
            throw new RuntimeError('The template takes more than '.(self::BYTES >> 20).' MB of memory.');
        }
        if (microtime(true) - $this->began > self::SECONDS) {
            throw new RuntimeError('The template takes longer than '.(int) self::SECONDS.' seconds.');
        }
    }
}
