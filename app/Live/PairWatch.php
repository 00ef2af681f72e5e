<?php

declare(strict_types=1);

namespace App\Live;

use App\Acts\Engine\Acts;
use App\Acts\Lease\NotePairStates;
use App\Acts\Lease\SayPartnerDown;
use App\Links\ControlChannel;
use App\Links\Unanswered;
use App\Models\Pair;
use App\Models\Person;
use App\Models\Server;

/** Asks the servers of pairs in which state they are, each server once, and tells one that its partner is off. */
final readonly class PairWatch
{
    public function __construct(private Acts $acts)
    {
    }

    /**
     * @param  iterable<Pair>  $pairs
     * @return list<array{pair: string, server: string, told: ?array<mixed>, problem: ?string}>
     */
    public function read(iterable $pairs): array
    {
        $states = $answers = [];
        foreach ($pairs as $pair) {
            foreach ($pair->servers() as $server) {
                $answers[$server->id] ??= self::ask($server);
                [$told, $problem] = $answers[$server->id];
                $states[] = ['pair' => $pair->id, 'server' => $server->id, 'told' => $told[$pair->id] ?? null, 'problem' => $problem];
            }
        }
        if ($states !== []) {
            $this->acts->commit(null, [new NotePairStates($states)]);
        }

        return $states;
    }

    /**
     * @return array<mixed> what the server is in then
     *
     * @throws Unanswered also when it refuses, with its reason
     */
    public function partnerDown(Pair $pair, Server $server, Person $person, string $reason): array
    {
        $answer = (new ControlChannel($server, (float) config('harbor.patience')))->ask('partner-down', ['id' => $pair->id], once: true);
        $this->acts->commit($person, [new SayPartnerDown($pair->id, $server->id)], reason: $reason);
        $this->read([$pair]);

        return is_array($answer['state'] ?? null) ? $answer['state'] : [];
    }

    /** @return array{array<string, array<mixed>>, ?string} pair → what the server says; the problem */
    private static function ask(Server $server): array
    {
        try {
            $answer = (new ControlChannel($server, (float) config('harbor.patience'), 1))->ask('pairs');
        } catch (Unanswered $e) {
            return [[], $e->getMessage()];
        }
        $states = [];
        foreach (is_array($answer['states'] ?? null) ? $answer['states'] : [] as $state) {
            if (is_array($state) && is_string($state['id'] ?? null)) {
                $states[$state['id']] = $state;
            }
        }

        return [$states, null];
    }
}
