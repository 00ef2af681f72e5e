<?php

declare(strict_types=1);

namespace Tests\Core\Dns\Dnssec;

use HarborPost\Core\Dns\Dnssec\Algorithm;
use HarborPost\Core\Dns\Dnssec\Denial;
use HarborPost\Core\Dns\Dnssec\Node;
use HarborPost\Core\Dns\Dnssec\SigningKey;
use HarborPost\Core\Dns\Dnssec\Validator;
use HarborPost\Core\Dns\Dnssec\Validity;
use HarborPost\Core\Dns\Dnssec\Verdict;
use HarborPost\Core\Dns\Dnssec\ZoneSigner;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Edns;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Net\Address;
use HarborPost\Standins\Dns\Authority;
use HarborPost\Standins\Dns\ServedZone;

/** Zones on one server in memory, some signed, and a validator that asks it. */
final class SignedWorld
{
    public const NOW = 1_790_000_000;

    /** @var array<string, SigningKey> */
    public array $keys = [];

    public readonly Authority $authority;

    public function __construct()
    {
        $this->authority = new Authority;
        $this->authority->setViews([['name' => 'all', 'clients' => ['0.0.0.0/0']]]);
    }

    /** @return list<Record> */
    public static function records(string $zone, string $text): array
    {
        $lines = ["$zone 3600 SOA ns.$zone host.$zone 1 3600 900 604800 300", ...array_filter(array_map(trim(...), explode("\n", $text)))];

        return array_map(Record::ofLine(...), $lines);
    }

    /**
     * @param  list<Record>  $records
     * @return list<Record> with signatures and denial
     */
    public function signed(
        string $zone,
        array $records,
        Denial $denial,
        Algorithm $algorithm = Algorithm::EcdsaP256,
        int $at = self::NOW,
        int $lifetime = 86400 * 14,
    ): array {
        $key = $this->keys[$zone] ??= SigningKey::make($algorithm, true, random_bytes(32));
        $signer = new ZoneSigner(
            Name::parse($zone),
            $denial,
            new Validity($lifetime, 86400, 0),
            [$key->public],
            [$key],
            [$key],
            3600,
            [$key->public],
        );
        $all = $records;
        foreach ($signer->sign(Node::all($records), [], $at) as $set) {
            $all = [...$all, ...($set->made ? $set->set->records : []), ...$set->fresh];
        }

        return $all;
    }

    /** @param  list<Record>  $records */
    public function serve(string $zone, array $records): ServedZone
    {
        $served = new ServedZone(Name::parse($zone));
        array_map($served->add(...), $records);
        $this->authority->put('all', $served);

        return $served;
    }

    public function ask(string $name, string $type): Message
    {
        $query = Message::query(1, new Question(Name::parse($name), RecordType::parse($type)), false, new Edns(dnssecOk: true));

        // Over the wire and back, as a resolver would have it.
        return Message::fromWire($this->authority->answer($query, Address::parse('10.0.0.1'))->wire());
    }

    /** @param  list<Record>  $anchors */
    public function judge(Message $answer, array $anchors, int $now = self::NOW): Verdict
    {
        $asking = (new Validator($anchors, $now))->judge($answer->questions[0], $answer);
        while ($asking->valid()) {
            $question = $asking->current();
            $asking->send($this->ask((string) $question->name, (string) $question->type));
        }

        return $asking->getReturn();
    }

    public function anchor(string $zone): Record
    {
        return new Record(Name::parse($zone), 3600, $this->keys[$zone]->ds(Name::parse($zone)));
    }
}
