<?php

declare(strict_types=1);

namespace App\Live;

use App\Links\AgentWire;
use App\Links\ControlChannel;
use App\Links\ScopeForm;
use App\Links\Unanswered;
use App\Models\Server;
use App\Models\ServerKind;

/**
 * Whether an agent keeps the protocol of docs/agent.md, tried step by step with a scope of the documentation block (RFC 5737), which is
 * taken away again. Nothing else on the server is touched.
 *
 * @phpstan-type Step array{what: string, good: ?bool, words: string}
 */
final class AgentCheck
{
    private const SCOPE = 'agentcheck00000000000000000';

    /** @var list<Step> good: null where the agent does not do it */
    private array $steps = [];

    private readonly ControlChannel $channel;

    private readonly Server $server;

    private function __construct(string $address, string $token)
    {
        $this->server = new Server(['name' => 'the agent', 'kind' => ServerKind::Dhcp, 'control' => $address, 'token' => $token]);
        $this->channel = new ControlChannel($this->server, (float) config('harbor.patience'), 1);
    }

    /** @return list<Step> */
    public static function of(string $address, string $token): array
    {
        $self = new self($address, $token);
        $self->run();

        return $self->steps;
    }

    private function run(): void
    {
        try {
            $does = array_values(array_filter(AgentWire::KNOWN, $this->channel->does(...)));
        } catch (Unanswered $e) {
            $this->step('What it does', false, $e->getMessage());

            return;
        }
        $this->step('What it does', in_array('scopes', $does, true), implode(', ', $does).', version 1');
        $this->refusals();
        $this->scopes();
        $this->leases($does);
        foreach (['pairs' => 'pairs', 'names' => 'names'] as $what => $op) {
            if (! in_array($what, $does, true)) {
                $this->step(ucfirst($what), null, 'it does none');

                continue;
            }
            $this->attempt(ucfirst($what), function () use ($op): string {
                $told = $this->channel->ask($op)[$op] ?? throw Unanswered::nonsense('the agent', "an answer without \"$op\"");

                return count((array) $told).' are there';
            });
        }
    }

    private function refusals(): void
    {
        $wrong = clone $this->server;
        $wrong->token = 'wrong-'.bin2hex(random_bytes(4));
        $unknown = new ControlChannel($wrong, (float) config('harbor.patience'), 1);
        $this->refused('A wrong token', fn () => $unknown->ask('scopes'), 'token');
        $this->refused('What there is not', fn () => $this->channel->ask('no-such-thing'), 'nothing at');
        $this->refused('A scope without a subnet', fn () => $this->channel->ask('put', ['scope' => ['id' => self::SCOPE]]), '');
    }

    private function scopes(): void
    {
        $form = [
            'id' => self::SCOPE, 'name' => 'Agent check', 'subnet' => '203.0.113.192/28', 'ranges' => ['203.0.113.196-203.0.113.201'],
            'exclusions' => ['203.0.113.198-203.0.113.198'], 'lease_time' => 3600, 'delay_ms' => 0,
            'options' => [3 => 'cb0071c1', 6 => 'cb0071c2cb0071c3', 15 => '6578616d706c65'],
            'reservations' => [
                ['mac' => '00:00:5e:00:53:01', 'client' => '', 'address' => '203.0.113.203', 'name' => 'till', 'options' => [15 => '61']],
            ],
            'classes' => [], 'kept' => [],
        ];
        $this->attempt('A scope comes, and is read back as it was sent', function () use ($form): string {
            $this->channel->ask('cut', ['id' => self::SCOPE]);
            $this->channel->ask('put', ['scope' => $form]);

            return $this->same($form);
        });
        $this->attempt('The same once more changes nothing', function () use ($form): string {
            $this->channel->ask('put', ['scope' => $form]);

            return $this->same($form);
        });
        $changed = ['ranges' => ['203.0.113.196-203.0.113.199'], 'exclusions' => [], 'options' => [3 => 'cb0071c1']] + $form;
        $this->attempt('A change replaces the whole scope', function () use ($changed): string {
            $this->channel->ask('put', ['scope' => $changed]);

            return $this->same($changed);
        });
        $this->attempt('It goes, and may be told to go twice', function (): string {
            $this->channel->ask('cut', ['id' => self::SCOPE]);
            $this->channel->ask('cut', ['id' => self::SCOPE]);

            return $this->running() === null ? 'gone' : throw Unanswered::differs('the agent', 'the scope is still there');
        });
    }

    /** @param  list<string>  $does */
    private function leases(array $does): void
    {
        if (! in_array('leases', $does, true)) {
            $this->step('Leases', null, 'it tells none');

            return;
        }
        $this->attempt('Leases come in pages, in the order of addresses', function (): string {
            $after = '';
            $count = 0;
            do {
                $page = array_values((array) ($this->channel->ask('leases', ['after' => $after])['leases'] ?? []));
                $addresses = array_map(
                    static fn (mixed $l): string => is_array($l) && is_string($l['address'] ?? null) ? $l['address'] : '', $page,
                );
                foreach ($addresses as $address) {
                    $packed = @inet_pton($address);
                    $before = (string) @inet_pton($after);
                    if ($packed === false || [strlen($before), $before] >= [strlen($packed), $packed]) {
                        throw Unanswered::nonsense('the agent', "\"$address\" behind \"$after\"");
                    }
                    $after = $address;
                }
                $count += count($page);
            } while ($page !== [] && count($page) >= 1000);

            return number_format($count).' leases';
        });
        in_array('changes', $does, true) ? $this->attempt('Leases that changed are told since a cursor', $this->changes(...))
            : $this->step('Changes of leases', null, 'it tells none: all are read each time');
    }

    private function changes(): string
    {
        $first = $this->channel->ask('lease-changes', ['since' => '']);
        $cursor = $first['cursor'] ?? null;
        if (! is_string($cursor) || ($first['whole'] ?? false) !== true) {
            throw Unanswered::nonsense('the agent', 'no "cursor" and "whole" for a blank cursor');
        }
        $next = $this->channel->ask('lease-changes', ['since' => $cursor]);
        if (($next['whole'] ?? false) === true || ! is_string($next['cursor'] ?? null) || ! is_array($next['leases'] ?? null)) {
            throw Unanswered::nonsense('the agent', 'for the cursor that it gave a moment ago, not what changed since');
        }
        $unknown = $this->channel->ask('lease-changes', ['since' => 'never-given:1']);

        return ($unknown['whole'] ?? false) === true ? 'told, and said where it cannot be'
            : throw Unanswered::nonsense('the agent', 'changes since a cursor that it never gave');
    }

    /** @param  array<string, mixed>  $form */
    private function same(array $form): string
    {
        $has = $this->running() ?? throw Unanswered::differs('the agent', 'the scope is not listed');
        [$meant, $is] = [ScopeForm::lines($form), ScopeForm::lines($has)];
        $left = [...array_diff($meant, $is), ...array_diff($is, $meant)];

        return $left === [] ? 'read back and equal' : throw Unanswered::differs('the agent', implode('; ', $left));
    }

    /** @return ?array<string, mixed> */
    private function running(): ?array
    {
        foreach ((array) ($this->channel->ask('scopes')['scopes'] ?? []) as $form) {
            if (is_array($form) && ($form['id'] ?? null) === self::SCOPE) {
                return ScopeForm::whole($form);
            }
        }

        return null;
    }

    /** @param  \Closure(): string  $try */
    private function attempt(string $what, \Closure $try): void
    {
        try {
            $this->step($what, true, $try());
        } catch (Unanswered $e) {
            $this->step($what, false, $e->getMessage());
        }
    }

    /** @param  \Closure(): mixed  $try */
    private function refused(string $what, \Closure $try, string $says): void
    {
        try {
            $try();
            $this->step("$what is refused", false, 'it was taken');
        } catch (Unanswered $e) {
            $this->step("$what is refused", ! $e->mayPass && ($says === '' || str_contains($e->getMessage(), $says)), $e->getMessage());
        }
    }

    private function step(string $what, ?bool $good, string $words): void
    {
        $this->steps[] = ['what' => $what, 'good' => $good, 'words' => $words];
    }
}
