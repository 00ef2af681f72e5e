<?php

declare(strict_types=1);

namespace App\Live;

use App\Links\Names\DnsClient;
use App\Links\Unanswered;
use App\Models\Server;
use App\Models\ServerKind;
use HarborPost\Core\Dns\Dnssec\ChainLink;
use HarborPost\Core\Dns\Dnssec\Trust;
use HarborPost\Core\Dns\Dnssec\Verdict;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Net\Address;

/**
 * The chain of trust to an answer as one server's answers make it, judged here: with the anchors that a resolver is meant to hold, or
 * given ones.
 */
final readonly class TrustChain
{
    private function __construct(
        public Question $question,
        public Server $server,
        public Verdict $verdict,
        public bool $says,
        public Rcode $rcode,
    ) {
    }

    /**
     * @param  list<Record>  $anchors
     *
     * @throws Unanswered
     */
    public static function of(Server $server, Name $name, RecordType $type, array $anchors, ?Address $client = null): self
    {
        $dns = new DnsClient($server->name, $server->endpoint, (float) config('harbor.patience'));
        $recursion = $server->kind === ServerKind::Resolver || ($server->resolving['recursion'] ?? false);
        $question = new Question($name, $type);
        $said = $dns->ask($name, $type, $client, $recursion, dnssecOk: true)->message;
        $verdict = $dns->judge($question, $anchors, now()->getTimestamp(), $client, $recursion);

        return new self($question, $server, $verdict, $said->authenticData, $said->rcode);
    }

    /** @return list<Record> the anchors that a server is meant to hold */
    public static function anchorsOf(Server $server): array
    {
        return array_map(self::anchor(...), $server->resolving['anchors'] ?? []);
    }

    /** @param  string  $line  "zone type data" */
    public static function anchor(string $line): Record
    {
        [$zone, $type, $data] = explode(' ', $line, 3) + ['', '', ''];

        return new Record(Name::parse($zone), 0, RdataTypes::fromText(RecordType::parse($type), Fields::ofLine($data)));
    }

    /**
     * @return list<array{zone: string, trust: Trust, words: string, anchor: bool, ds: list<int>, keys: list<string>}> from the anchor
     * down
     */
    public function links(): array
    {
        return array_map(static fn (ChainLink $l): array => [
            'zone' => rtrim((string) $l->zone, '.') ?: 'the root', 'trust' => $l->trust, 'anchor' => $l->anchor,
            'words' => $l->fault === null
                ? ($l->trust === Trust::Insecure ? 'proved to be unsigned' : $l->trust->value) : $l->fault->words(),
            'ds' => array_map(static fn ($d): int => $d->keyTag(), $l->ds),
            'keys' => array_map(static fn ($k): string => $k->tag().(($k->flags() & 1) === 1 ? ' entry' : ''), $l->keys),
        ], $this->verdict->links);
    }
}
