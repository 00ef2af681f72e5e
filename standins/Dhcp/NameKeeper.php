<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use HarborPost\Core\Dhcp\Names\ClientIdentity;
use HarborPost\Core\Dhcp\Names\LeaseName;
use HarborPost\Core\Dhcp\Names\LeaseNames;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Wire\Asker;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Wire\Tsig;
use HarborPost\Core\Dns\Wire\TsigAlgorithm;
use HarborPost\Core\Dns\Wire\TsigKey;
use HarborPost\Core\Dns\Zone\UpdateRequest;
use HarborPost\Core\Exchange\NameUpdates;
use HarborPost\Core\Net\Address;
use HarborPost\Standins\Dns\Upstream;
use HarborPost\Standins\Journal;
use React\EventLoop\LoopInterface;

/**
 * Writes the names of leases into the name service by signed updates, one after the other, and takes them out when the leases end. What
 * could not be written is tried again with growing pauses; what it has written is known over a restart.
 *
 * @phpstan-type Entry array{
 *     address: string, name: string, identity: string, scope: string, state: string, why: string, tries: int, next: int
 * }
 */
final class NameKeeper
{
    /** Seconds that a lease has to last before it is named: who only asks leaves nothing behind. */
    private const SETTLES = 1;

    /** @var array<string, Entry> address → what stands, or is to stand, in the name service */
    private array $entries = [];

    /** @var array<string, TsigKey> */
    private array $keys = [];

    private bool $busy = false;

    /**
     * @param  \Closure(): int  $now
     * @param  \Closure(string $scope): ?NamingRule  $rules
     * @param  \Closure(string $address): bool  $runs  does a lease run there that this server gave?
     */
    public function __construct(
        private readonly LoopInterface $loop,
        private readonly Journal $journal,
        private readonly Journal $known,
        private readonly \Closure $now,
        private readonly \Closure $rules,
        private readonly \Closure $runs,
    ) {
        foreach ($journal->entries() as $row) {
            $entry = self::entry($row);
            if ($entry !== null) {
                $this->entries[$entry['address']] = $entry;
            }
        }
        $this->entries = array_filter($this->entries, static fn (array $e): bool => $e['state'] !== 'gone');
        $journal->rewrite(array_values($this->entries));
        foreach ($known->entries() as $row) {
            $this->learn($row);
        }
        $loop->addPeriodicTimer(0.5, $this->work(...));
    }

    /** @param  array<mixed>  $row */
    public function keep(array $row): void
    {
        $this->learn($row);
        $this->known->append($row);
    }

    /** @param  array<mixed>  $row */
    private function learn(array $row): void
    {
        try {
            $name = is_string($row['name'] ?? null) ? $row['name'] : '';
            $this->keys[$name] = TsigKey::of(
                Name::parse($name),
                is_string($row['secret'] ?? null) ? $row['secret'] : '',
                TsigAlgorithm::tryFrom(is_string($row['algorithm'] ?? null) ? $row['algorithm'] : '') ?? TsigAlgorithm::Sha256,
            );
        } catch (Malformed) {
        }
    }

    /** A lease was given or renewed: its name follows it. */
    public function given(string $scope, NamingRule $rule, Address $address, ClientIdentity $client, string $said, string $mac): ?Name
    {
        $name = LeaseName::of($rule->byPattern ? '' : $said, $rule->pattern, $address, str_replace(':', '', $mac), $rule->zone);
        if ($name === null || $rule->who === LeaseNames::Nobody) {
            return null;
        }
        $entry = [
            'address' => (string) $address, 'name' => (string) $name, 'identity' => bin2hex($client->at($name)), 'scope' => $scope,
            'state' => 'waits', 'why' => '', 'tries' => 0, 'next' => ($this->now)() + self::SETTLES,
        ];
        $there = $this->entries[(string) $address] ?? null;
        if ($there === null || $there['name'] !== $entry['name'] || $there['identity'] !== $entry['identity']
            || $there['state'] === 'ends') {
            if ($there !== null && $there['state'] === 'there') {
                // The one before goes first.
                $this->note(['state' => 'ends', 'next' => 0, 'tries' => 0] + $there, "{$there['address']} before");
            }
            $this->note($entry);
        }

        return $name;
    }

    /** @return list<Entry> */
    public function all(): array
    {
        return array_values($this->entries);
    }

    /** @param  Entry  $entry */
    private function note(array $entry, ?string $key = null): void
    {
        $key ??= $entry['address'];
        if ($entry['state'] === 'gone') {
            unset($this->entries[$key]);
        } else {
            $this->entries[$key] = $entry;
        }
        $this->journal->append($entry);
    }

    private function work(): void
    {
        $now = ($this->now)();
        foreach ($this->busy ? [] : $this->entries as $key => $entry) {
            $runs = ($this->runs)($entry['address']) && ! str_contains((string) $key, ' ');
            if ($entry['state'] !== 'ends' && ! $runs && $entry['next'] <= $now) {
                $entry = ['state' => $entry['state'] === 'there' ? 'ends' : 'gone', 'next' => 0, 'tries' => 0] + $entry;
                $this->note($entry, (string) $key);
            }
            if (in_array($entry['state'], ['waits', 'ends'], true) && $entry['next'] <= $now) {
                $this->carry((string) $key, $entry);

                return;
            }
        }
    }

    /** @param  Entry  $entry */
    private function carry(string $key, array $entry): void
    {
        $rule = ($this->rules)($entry['scope']);
        $address = Address::tryParse($entry['address']);
        $identity = (string) hex2bin($entry['identity']);
        if ($rule === null || $address === null) {
            $this->note(['state' => 'gone'] + $entry, $key);

            return;
        }
        $name = Name::parse($entry['name']);
        $updates = new NameUpdates($name, $address, $identity, $rule->ttl);
        $reverse = $rule->reverseOf($address);
        $forward = $rule->who === LeaseNames::Server;
        $steps = $entry['state'] === 'ends'
            ? [...($forward ? [$updates->withdraw($rule->zone), $updates->leave($rule->zone)] : []),
                ...($reverse === null ? [] : [$updates->unpoint($reverse)])]
            : [...($forward ? [$updates->take($rule->zone)] : []), ...($reverse === null ? [] : [$updates->point($reverse)])];
        $this->busy = true;
        $this->next($key, $entry, $rule, $steps, $updates);
    }

    /**
     * @param  Entry  $entry
     * @param  list<UpdateRequest>  $steps
     */
    private function next(string $key, array $entry, NamingRule $rule, array $steps, NameUpdates $updates): void
    {
        $step = array_shift($steps);
        if ($step === null) {
            $this->busy = false;
            $this->note(['state' => $entry['state'] === 'ends' ? 'gone' : 'there', 'why' => '', 'tries' => 0] + $entry, $key);

            return;
        }
        $server = $step->zone->equals($rule->zone) ? $rule->server : ($rule->reverse[(string) $step->zone] ?? '');
        $this->send($rule, $server, $step, function (?Rcode $rcode, string $why) use ($key, $entry, $rule, $steps, $step, $updates): void {
            if ($rcode === Rcode::YxDomain && $entry['state'] === 'waits') {
                // Somebody has the name: it may be this client itself.
                $this->next($key, $entry, $rule, [$updates->move($rule->zone), ...$steps], $updates);
            } elseif ($rcode === Rcode::NoError || $rcode !== null && $entry['state'] === 'ends' && NameUpdates::isConflict($rcode)) {
                $this->next($key, $entry, $rule, $steps, $updates);
            } elseif ($rcode !== null && NameUpdates::isConflict($rcode)) {
                $this->busy = false;
                $this->note(['state' => 'conflict', 'why' => "{$entry['name']} is another's in the name service"] + $entry, $key);
            } else {
                $this->busy = false;
                $tries = $entry['tries'] + 1;
                $pause = min(300, 5 * 2 ** min(6, $tries - 1));
                $why = $rcode === null ? $why : "{$step->zone}: {$rcode->explained()}";
                $this->note(['why' => $why, 'tries' => $tries, 'next' => ($this->now)() + $pause] + $entry, $key);
            }
        });
    }

    /** @param  \Closure(?Rcode, string): void  $done */
    private function send(NamingRule $rule, string $server, UpdateRequest $request, \Closure $done): void
    {
        $plain = $request->toMessage(random_int(0, 0xFFFF));
        $message = new Message(
            $plain->id,
            opcode: $plain->opcode,
            questions: $plain->questions,
            answers: $plain->answers,
            authority: $plain->authority,
            edns: (new Asker($rule->client))->edns(),
        );
        $key = $this->keys[$rule->key] ?? null;
        if ($rule->key !== '' && $key === null) {
            $done(null, "the key $rule->key is not on this server");

            return;
        }
        [$bytes, $before] = $key === null ? [$message->wire(), null] : Tsig::sign($message->wire(), $key, time());
        Upstream::ask(
            $this->loop,
            $server,
            $bytes,
            function (string $packet) use ($key, $before, $done): bool {
                try {
                    if ($key !== null) {
                        [$signature, $packet] = Tsig::check($packet, [$key], time(), $before);
                        if (! $signature->isGood() || $signature->error !== 0) {
                            $done(null, 'the answer is '.$signature->explained());

                            return false;
                        }
                    }
                    $done(Message::fromWire($packet)->rcode, '');
                } catch (Malformed $e) {
                    $done(null, $e->getMessage());
                }

                return false;
            },
            static fn (string $why) => $done(null, $why),
        );
    }

    /** @param  array<mixed>  $row
     * @return Entry|null
     */
    private static function entry(array $row): ?array
    {
        $text = static fn (string $key): string => is_string($row[$key] ?? null) ? $row[$key] : '';
        $number = static fn (string $key): int => is_int($row[$key] ?? null) ? $row[$key] : 0;

        return Address::tryParse($text('address')) === null ? null : [
            'address' => $text('address'), 'name' => $text('name'), 'identity' => $text('identity'), 'scope' => $text('scope'),
            'state' => $text('state'), 'why' => $text('why'), 'tries' => $number('tries'), 'next' => $number('next'),
        ];
    }
}
