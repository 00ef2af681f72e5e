<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Acts\Engine\Outcome;
use App\Acts\Engine\Witness;
use App\Api\Problem;
use App\Api\Told;
use Illuminate\Database\Query\Builder;

/** The answer to a request that is carried out once: written with what it tells of, by whoever still holds the request. */
final readonly class Answering implements Witness
{
    /** @param  Builder  $own  the row of the request, as long as it is ours and open */
    public function __construct(private Builder $own)
    {
    }

    public function of(Outcome $outcome): void
    {
        $body = json_encode(Told::outcome($outcome, true), JSON_THROW_ON_ERROR | Told::JSON);
        if ((clone $this->own)->update(['status' => 201, 'body' => $body]) === 0) {
            throw Problem::of(409, 'taken-over', 'The same request came again and is being answered there. Nothing was written here.');
        }
    }
}
