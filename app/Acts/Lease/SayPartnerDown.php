<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Models\Pair;
use App\Models\Person;

/** A server of a pair was told that its partner is off: who said so, and why, is kept with the pair. */
final readonly class SayPartnerDown extends Act
{
    public function __construct(public string $pair, public string $server)
    {
    }

    public function title(): string
    {
        $pair = Pair::query()->with(['first', 'second'])->find($this->pair);

        return $pair === null
            ? 'Say that a partner is off'
            : ($pair->first_id === $this->server ? $pair->first : $pair->second)
                ->name." takes over from {$pair->partnerOf($this->server)->name}";
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public static function governed(): bool
    {
        return false;
    }

    public function apply(Ledger $ledger): void
    {
        $pair = Pair::query()->find($this->pair) ?? $ledger->refuse('gone', 'The pair is not there any more');
        $pair->off_id = $pair->partnerOf($this->server)->id;
        $pair->off_at = \Carbon\CarbonImmutable::instance($ledger->at);
        $pair->save();
    }
}
