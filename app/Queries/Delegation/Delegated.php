<?php

declare(strict_types=1);

namespace App\Queries\Delegation;

use App\Models\Zone;

/** A zone in one view, and what the zone above says of it. */
final readonly class Delegated
{
    public function __construct(public Zone $zone, public State $state, public ?Zone $above)
    {
    }

    public function words(): string
    {
        return match ($this->state) {
            State::Top => 'nothing of ours above',
            State::Good => 'delegated'.($this->zone->policy_id === null ? '' : ', signed'),
            State::Differs => 'NS above differ from its own',
            State::Missing => 'no NS above: not delegated',
        };
    }
}
