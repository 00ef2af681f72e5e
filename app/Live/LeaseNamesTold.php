<?php

declare(strict_types=1);

namespace App\Live;

use App\Links\ControlChannel;
use App\Links\Unanswered;
use App\Models\Scope;
use App\Models\ScopeServer;

/** What the servers of a scope wrote into the name service for its leases, and what they could not. */
final class LeaseNamesTold
{
    /**
     * @return array{rows: list<array{server: string, address: string, name: string, state: string, why: string}>, problems: list<string>}
     */
    public static function of(Scope $scope): array
    {
        $rows = $problems = [];
        foreach ($scope->placements->sortBy(fn (ScopeServer $p): string => $p->server->name) as $placement) {
            try {
                $answer = (new ControlChannel($placement->server, (float) config('harbor.patience'), 1))->ask('names');
            } catch (Unanswered $e) {
                $problems[] = $e->getMessage();

                continue;
            }
            foreach (is_array($answer['names'] ?? null) ? $answer['names'] : [] as $one) {
                $text = static fn (string $key): string => is_array($one) && is_string($one[$key] ?? null) ? mb_substr($one[$key], 0, 300)
                    : '';
                if ($text('scope') === $scope->id) {
                    $rows[] = [
                        'server' => $placement->server->name, 'address' => $text('address'), 'name' => $text('name'),
                        'state' => $text('state'),
                        'why' => $text('why'),
                    ];
                }
            }
        }
        usort($rows, static fn (array $a, array $b): int => [$a['state'] !== 'conflict', $a['name']] <=> [$b['state'] !== 'conflict',
            $b['name']]);

        return ['rows' => array_slice($rows, 0, 2000), 'problems' => $problems];
    }
}
