<?php

declare(strict_types=1);

namespace App\Live;

use App\Links\Names\DnsAnswer;
use App\Links\Names\DnsClient;
use App\Links\Unanswered;
use App\Models\Server;
use App\Models\ServerKind;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\HoldsAddress;
use HarborPost\Core\Dns\Rdata\Ptr;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;
use Illuminate\Database\Eloquent\Collection;

/** One question to several servers, and questions that follow from an answer. */
final class Lookups
{
    /**
     * @param  Collection<int, Server>  $servers
     * @param  \Closure(Server): DnsAnswer  $ask
     * @return list<array{server: Server, answer: ?DnsAnswer, data: list<string>, ttl: ?int, trouble: string, odd: bool}> odd: not what
     *     most of those that answer say
     */
    public static function sideBySide(Collection $servers, \Closure $ask): array
    {
        $rows = [];
        foreach ($servers as $server) {
            try {
                $answer = $ask($server);
                $data = array_map(static fn ($r): string => "{$r->type()} {$r->data->text()}", $answer->message->answers);
                sort($data);
                $rows[] = [
                    'server' => $server, 'answer' => $answer, 'data' => $data,
                    'ttl' => isset($answer->message->answers[0]) ? $answer->message->answers[0]->ttl : null, 'trouble' => '',
                    'odd' => false,
                ];
            } catch (Unanswered $e) {
                $rows[] = [
                    'server' => $server, 'answer' => null, 'data' => [], 'ttl' => null, 'trouble' => $e->getMessage(), 'odd' => false,
                ];
            }
        }
        $votes = array_count_values(
            array_map(
                static fn (array $r): string => implode("\n", $r['data']),
                array_filter(
                    $rows,
                    static fn (array $r): bool => $r['answer'] !== null && in_array($r['answer']->message->rcode->value, [0, 3], true),
                ),
            ),
        );
        arsort($votes);
        foreach ($rows as $i => $row) {
            $rows[$i]['odd'] = $row['answer'] !== null
                && in_array($row['answer']->message->rcode->value, [0, 3], true)
                && implode("\n", $row['data']) !== (string) array_key_first($votes);
        }

        return $rows;
    }

    /**
     * From a name to its addresses and from each back to names, or the other way round.
     *
     * @param  Collection<int, Server>  $servers
     * @return list<array{from: string, to: list<string>, back: array<string, list<string>>, agrees: bool}>
     */
    public static function thereAndBack(Name $name, ?Address $address, Collection $servers, ?Address $client): array
    {
        $ask = static function (Name $n, int $type) use ($servers, $client): array {
            foreach ($servers->where('kind', '!=', ServerKind::Roots) as $server) {
                $message = (new DnsClient($server->name, $server->endpoint, 1.0))
                    ->ask($n, RecordType::of($type), $client, $server->kind === ServerKind::Resolver)->message;
                if ($message->answers !== []) {
                    return array_map(static fn ($r) => $r->data, $message->answers);
                }
            }

            return [];
        };
        $addresses = static fn (Name $n): array => array_values(
            array_map(
                static fn (HoldsAddress $d): string => (string) $d->address(),
                array_filter(
                    [...$ask($n, RecordType::A), ...$ask($n, RecordType::AAAA)],
                    static fn ($d): bool => $d instanceof HoldsAddress,
                ),
            ),
        );
        $pointers = static fn (Address $a): array => array_values(
            array_map(
                static fn (Ptr $d): string => rtrim((string) $d->target->lower(), '.'),
                array_filter($ask(ReverseName::of($a), RecordType::PTR), static fn ($d): bool => $d instanceof Ptr),
            ),
        );
        $from = $address === null ? rtrim((string) $name->lower(), '.') : (string) $address;
        $to = $address === null ? $addresses($name) : $pointers($address);
        $back = [];
        foreach ($to as $one) {
            $back[$one] = $address === null ? $pointers(Address::parse($one)) : $addresses(Name::parse("$one."));
        }

        return [[
            'from' => $from,
            'to' => $to,
            'back' => $back,
            'agrees' => $to !== [] && array_filter($back, static fn (array $b): bool => ! in_array($from, $b, true)) === [],
        ]];
    }
}
