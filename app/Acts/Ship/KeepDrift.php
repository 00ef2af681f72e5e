<?php

declare(strict_types=1);

namespace App\Acts\Ship;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Links\Difference;
use App\Links\DifferenceState;
use App\Models\Person;
use Illuminate\Support\Facades\DB;

/**
 * What a server was found to run otherwise than it was brought to, or why it could not be read. A finding keeps the time it was first
 * made.
 */
final readonly class KeepDrift extends Act
{
    /** @param  list<Difference>  $drifted */
    public function __construct(
        public string $server,
        public array $drifted,
        public int $compared,
        public ?string $problem,
        public bool $whole,
        /** objects that differ because they were not shipped yet */
        public int $waiting = 0,
    ) {
    }

    public function title(): string
    {
        return 'Keep what a server runs otherwise';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function apply(Ledger $ledger): void
    {
        Guard::own("drift:$this->server");
        $now = $ledger->at->format('Y-m-d H:i:s');
        if ($this->problem !== null) {
            $since = DB::table('server_states')->where('server_id', $this->server)->value('problem_since');
            DB::table('server_states')->updateOrInsert(
                ['server_id' => $this->server],
                ['problem' => mb_strimwidth($this->problem, 0, 490, '…'), 'problem_since' => $since ?? $now],
            );

            return;
        }
        $kept = [];
        foreach ($this->drifted as $one) {
            $kept[] = $one->id;
            $values = [
                'title' => mb_strimwidth($one->title, 0, 250, '…'),
                'state' => $one->state->value,
                'removed' => json_encode(array_slice($one->removed, 0, 50), JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE),
                'added' => json_encode(array_slice($one->added, 0, 50), JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE),
                'removed_count' => $one->removedCount,
                'added_count' => $one->addedCount,
            ];
            $key = ['server_id' => $this->server, 'kind' => $one->kind, 'object_id' => mb_strimwidth($one->id, 0, 64)];
            DB::table('drifts')->where($key)->exists()
                ? DB::table('drifts')->where($key)->update($values)
                : DB::table('drifts')->insert($key + $values + ['found_at' => $now]);
        }
        // By serial alone, records that somebody changed without raising it are not seen: what was found by reading whole zones stays until
        // they are read again.
        DB::table('drifts')->where('server_id', $this->server)->whereNotIn('object_id', $kept)
            ->when(! $this->whole, fn ($q) => $q->where(fn ($w) => $w->where('kind', '!=', 'zone')
                ->orWhere('state', '!=', DifferenceState::Differs)))
            ->delete();
        DB::table('server_states')->updateOrInsert(
            ['server_id' => $this->server],
            [
                'compared_at' => $now, 'compared' => $this->compared, 'differing' => count($this->drifted), 'waiting' => $this->waiting,
                'problem' => null, 'problem_since' => null,
            ],
        );
    }
}
