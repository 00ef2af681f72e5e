<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Dnssec\Trust;
use HarborPost\Core\Dns\Dnssec\Validator;
use HarborPost\Core\Dns\Dnssec\Verdict;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Asker;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Wire\Referral;
use HarborPost\Core\Net\Address;
use React\EventLoop\LoopInterface;

/**
 * Finds answers elsewhere: by forwarders in order, and down from the roots where that is allowed. Keeps what it learnt as long as the
 * TTL says, so that changes arrive as they would on a network.
 */
final class Recursor
{
    /** Seconds for a server on the way down. */
    private const PATIENCE = 0.5;

    /** Seconds that an asker who does not say is thought to wait. */
    private const USUAL = 2.6;

    /** The part of the asker's patience that a forwarder gets. */
    private const SHARE = 0.55;

    /** Questions that one answer may cost. */
    private const MOST = 24;

    private const KEPT = 5000;

    public bool $on = false;

    /** @var list<string> endpoints, in order */
    public array $forwarders = [];

    /** asks the roots when no forwarder answers */
    public bool $fallback = true;

    /** @var list<string> addresses of root servers */
    public array $roots = [];

    /**
     * @var list<array{zone: Name, stub: bool, servers: list<string>}> zones that are asked of servers of their own: endpoints, or
     *     addresses for a stub
     */
    public array $zones = [];

    /** @var array<string, string> address in the plan → endpoint on loopback */
    public array $reach = [];

    /** @var list<Record> DS or DNSKEY that are trusted; without any nothing is validated */
    public array $anchors = [];

    /** @var list<Name> below these nothing is validated (RFC 7646) */
    public array $negative = [];

    /** @var (\Closure(Message, Address): ?Message)|null answers from the zones that are served here, for the validator's own questions */
    public ?\Closure $own = null;

    /** @var array<string, Kept> */
    private array $kept = [];

    /** @var list<array{to: string, how: string, outcome: string}> whom it asked lately, oldest first */
    private array $trail = [];

    /** @param  \Closure(): int  $now */
    public function __construct(private readonly LoopInterface $loop, private readonly Address $source, private readonly \Closure $now)
    {
    }

    /** @return list<array{to: string, how: string, outcome: string}> whom it asked since this was last read */
    public function trail(): array
    {
        [$trail, $this->trail] = [$this->trail, []];

        return $trail;
    }

    /** Answers that are kept. */
    public function count(): int
    {
        return count($this->kept);
    }

    public function flush(): int
    {
        $count = count($this->kept);
        $this->kept = [];

        return $count;
    }

    /** @param  \Closure(Message): void  $done */
    public function ask(Message $query, \Closure $done): void
    {
        $question = $query->questions[0] ?? null;
        if (! $this->on || ! $query->recursionDesired || $question === null) {
            $done($query->reply(Rcode::Refused, recursionAvailable: $this->on));

            return;
        }
        $client = Asking::client($query);
        $patience = Asker::of($query)->patience;
        $signatures = $query->edns?->dnssecOk === true;
        $judging = $this->anchors !== [] && ! $query->checkingDisabled;
        $answered = static function (Kept $kept) use ($query, $done, $signatures, $judging): void {
            $kept = $judging ? $kept->judged() : $kept;
            // AD is for those who know what it means (RFC 6840 §5.8).
            $proved = $judging && $kept->verdict?->trust === Trust::Secure && ($signatures || $query->authenticData);
            $answer = $query->reply($kept->rcode, $kept->answers, $kept->authority, recursionAvailable: true)
                ->judged($proved, $judging ? $kept->error() : null);
            $done($signatures ? $answer : $answer->withoutSignatures());
        };
        $this->fetch($question, $client, $patience, $signatures
            || $judging, function (Kept $kept) use ($judging, $client, $question, $answered): void {
                if (! $judging || $kept->verdict !== null) {
                    $answered($kept);

                    return;
                }
                $message = new Message(
                    0,
                    true,
                    questions: [$question],
                    rcode: $kept->rcode,
                    answers: $kept->answers,
                    authority: $kept->authority,
                );
                $asking = (new Validator($this->anchors, ($this->now)(), $this->negative))->judge($question, $message);
                $this->judge($asking, $client, static function (Verdict $verdict) use ($kept, $answered): void {
                    $kept->verdict = $verdict;
                    $answered($kept);
                });
            });
    }

    /**
     * Asks what the validator wants to know, one question after the other.
     *
     * @param  \Generator<int, Question, ?Message, Verdict>  $asking
     * @param  \Closure(Verdict): void  $done
     */
    private function judge(\Generator $asking, Address $client, \Closure $done): void
    {
        if (! $asking->valid()) {
            $done($asking->getReturn());

            return;
        }
        $question = $asking->current();
        $this->fetch($question, $client, null, true, function (Kept $kept) use ($question, $asking, $client, $done): void {
            $failed = $kept->rcode === Rcode::ServFail;
            $asking->send($failed ? null : new Message(
                0, true, questions: [$question], rcode: $kept->rcode, answers: $kept->answers, authority: $kept->authority,
            ));
            $this->judge($asking, $client, $done);
        });
    }

    /**
     * From the cache, from the zones that are served here, or from others.
     *
     * @param  bool  $signatures  DO
     * @param  \Closure(Kept): void  $done
     */
    private function fetch(Question $question, Address $client, ?float $patience, bool $signatures, \Closure $done): void
    {
        $key = "$client {$question->name->lower()} $question->type ".($signatures ? 'signed' : '');
        $now = ($this->now)();
        if (isset($this->kept[$key]) && $this->kept[$key]->until > $now) {
            $done($this->kept[$key]->aged($now));

            return;
        }
        $query = Asking::question(
            $question->name, $question->type, new Asker($client, $this->source, $patience), true, [], $signatures, $this->anchors !== [],
        );
        $finish = function (Message $answer) use ($done, $key, $now): void {
            $kept = Kept::of($answer, $now);
            if ($kept->until > $now) {
                $this->kept = count($this->kept) >= self::KEPT ? [] : $this->kept;
                $this->kept[$key] = $kept;
            }
            $done($kept);
        };
        $own = $this->own === null ? null : ($this->own)($query, $client);
        if ($own !== null) {
            $finish($own);

            return;
        }
        // A DS stands with the parent: who serves the zone itself is not asked for it.
        $parent = $question->type->number === RecordType::DS ? $question->name->parent() : null;
        $zone = $this->zoneOf($parent ?? $question->name);
        if ($zone !== null && $zone['stub']) {
            $budget = self::MOST;
            $this->descend(
                $query,
                $question,
                $zone['servers'],
                $zone['zone'],
                [],
                $budget,
                fn (Rcode $code, array $answers, array $authority) => $finish($query->reply($code, $answers, $authority)),
            );

            return;
        }
        $zone === null
            ? $this->forward($query, $question, $client, $this->forwarders, $finish)
            : $this->forward($query, $question, $client, $zone['servers'], $finish, true);
    }

    /**
     * @param  list<string>  $left  endpoints not tried yet
     * @param  \Closure(Message): void  $finish
     * @param  bool  $only  nobody else may be asked
     */
    private function forward(Message $query, Question $question, Address $client, array $left, \Closure $finish, bool $only = false): void
    {
        $endpoint = array_shift($left);
        if ($endpoint === null) {
            if ($only || $this->forwarders !== [] && ! $this->fallback || $this->roots === []) {
                $finish($query->reply(Rcode::ServFail));

                return;
            }
            $budget = self::MOST;
            $this->descend(
                $query,
                $question,
                $this->roots,
                Name::root(),
                [],
                $budget,
                fn (Rcode $code, array $answers, array $authority) => $finish($query->reply($code, $answers, $authority)),
            );

            return;
        }
        $patience = (Asker::of($query)->patience ?? self::USUAL) * self::SHARE;
        $this->send($endpoint, 'forwarder', Asking::question(
            $question->name,
            $question->type,
            new Asker($client, $this->source, $patience * 0.9),
            true,
            [],
            $query->edns?->dnssecOk === true,
            $query->checkingDisabled,
        ), function (?Message $answer) use ($query, $question, $client, $left, $finish, $only): void {
            // A refusal or a failure is no answer: the next one is tried.
            $answer === null
                || in_array($answer->rcode, [Rcode::ServFail, Rcode::Refused], true)
                    ? $this->forward($query, $question, $client, $left, $finish, $only)
                    : $finish($answer);
        }, $patience);
    }

    /** @return array{zone: Name, stub: bool, servers: list<string>}|null the closest zone with servers of its own */
    private function zoneOf(Name $name): ?array
    {
        $best = null;
        foreach ($this->zones as $zone) {
            $best = $name->isIn($zone['zone']) && ($best === null || $zone['zone']->isIn($best['zone'])) ? $zone : $best;
        }

        return $best;
    }

    /**
     * Down from the servers of a zone.
     *
     * @param  list<string>  $servers  addresses
     * @param  list<Record>  $before  aliases followed so far
     * @param  \Closure(Rcode, list<Record>, list<Record>): mixed  $finish
     */
    private function descend(
        Message $query,
        Question $question,
        array $servers,
        Name $zone,
        array $before,
        int &$budget,
        \Closure $finish,
    ): void {
        $address = array_shift($servers);
        if ($address === null || $budget-- <= 0) {
            $finish(Rcode::ServFail, [], []);

            return;
        }
        $next = fn () => $this->descend($query, $question, $servers, $zone, $before, $budget, $finish);
        $endpoint = $this->reach[$address] ?? null;
        if ($endpoint === null) {
            $next();

            return;
        }
        $this->send($endpoint, $zone->isRoot() ? 'root' : 'delegation', Asking::question(
            $question->name,
            $question->type,
            new Asker(source: $this->source),
            signatures: $query->edns?->dnssecOk === true,
        ), function (?Message $answer) use ($query, $question, $zone, $before, &$budget, $finish, $next): void {
            if ($answer === null) {
                $next();

                return;
            }
            $referral = Referral::of($answer, $question, $zone);
            match ($referral->kind) {
                Referral::LAME => $next(),
                Referral::DELEGATION => $this->down($query, $question, $referral, $before, $budget, $finish),
                Referral::ALIAS => $referral->alias === null
                    ? $next()
                    : $this->descend(
                        $query,
                        new Question($referral->alias, $question->type),
                        $this->roots,
                        Name::root(),
                        [...$before, ...$answer->answers],
                        $budget,
                        $finish,
                    ),
                default => $finish($answer->rcode, [...$before, ...$answer->answers], $answer->authority),
            };
        });
    }

    /**
     * @param  list<Record>  $before
     * @param  \Closure(Rcode, list<Record>, list<Record>): mixed  $finish
     */
    private function down(Message $query, Question $question, Referral $referral, array $before, int &$budget, \Closure $finish): void
    {
        $addresses = array_map(strval(...), array_merge(...array_values($referral->glue), ...[[]]));
        if ($addresses !== [] && $referral->zone !== null) {
            $this->descend($query, $question, $addresses, $referral->zone, $before, $budget, $finish);

            return;
        }
        $server = $referral->servers[0] ?? null;
        if ($server === null || $referral->zone === null) {
            $finish(Rcode::ServFail, [], []);

            return;
        }
        // No address came along: the server's own name is looked up first.
        $zone = $referral->zone;
        $this->descend($query, new Question($server, RecordType::of(RecordType::A)), $this->roots, Name::root(), [], $budget, function (
            Rcode $code,
            array $answers,
        ) use ($query, $question, $zone, $before, &$budget, $finish): void {
            $found = array_values(
                array_filter(
                    array_map(static fn (Record $r): string => $r->type()->number === RecordType::A ? $r->data->text() : '', $answers),
                ),
            );
            $found === [] ? $finish(Rcode::ServFail, [], []) : $this->descend($query, $question, $found, $zone, $before, $budget, $finish);
        });
    }

    /** @param  \Closure(?Message): void  $done  null when nobody answers */
    private function send(string $endpoint, string $how, Message $query, \Closure $done, float $patience = self::PATIENCE): void
    {
        $done = function (?Message $answer) use ($endpoint, $how, $done): void {
            $this->trail = array_slice(
                [
                    ...$this->trail,
                    ['to' => $endpoint, 'how' => $how, 'outcome' => $answer === null ? 'silent' : strtolower($answer->rcode->name)],
                ],
                -60,
            );
            $done($answer);
        };
        Upstream::ask($this->loop, $endpoint, $query->wire(), function (string $packet) use ($query, $done): bool {
            try {
                $answer = Message::fromWire($packet);
                $done($answer->id === $query->id ? $answer : null);
            } catch (MalformedBytes) {
                $done(null);
            }

            return false;
        }, fn () => $done(null), $patience);
    }
}
