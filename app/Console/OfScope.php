<?php

declare(strict_types=1);

namespace App\Console;

use App\Models\Scope;
use HarborPost\Core\Net\Prefix as Net;

/** Commands that speak of one scope, named by its name, its subnet or the start of its name. */
abstract class OfScope extends Computes
{
    /** The scope; null when there is none or several, which was said then. */
    protected function scope(): ?Scope
    {
        $text = $this->argument('scope');
        $text = is_string($text) ? $text : '';
        $net = Net::tryParse($text);
        $query = Scope::query()->with(['prefix', 'ranges', 'exclusions', 'delegations', 'reservations.optionValues', 'optionValues',
            'placements.server']);
        $found = $net === null
            ? $query->where('name', $text)->limit(2)->get()
            : $query->whereHas('prefix', fn ($p) => $p->where('first', $net->first->bytes)->where('length', $net->length))->limit(2)->get();
        if ($found->count() !== 1) {
            $this->err($found->isEmpty() ? "no scope $text" : "several scopes are meant by $text");

            return null;
        }

        return $found[0];
    }
}
