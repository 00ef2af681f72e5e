<?php

declare(strict_types=1);

namespace App\Live;

use App\Links\Names\DnsClient;
use App\Links\Names\Resolving;
use App\Links\Unanswered;
use App\Models\Server;
use App\Models\ServerKind;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Dns\Wire\Referral;
use HarborPost\Core\Net\Address;

/** Down from the roots by real packets, one server a step, as a resolver with an empty cache would go (RFC 1034 §5.3.3). */
final class Descent
{
    private const MOST = 16;

    /**
     * @param  Address  $client  for whom: servers with views answer by it
     * @return list<array{zone: string, server: string, address: string, kind: string, words: string, records: list<Record>,
     *     milliseconds: float}>
     */
    public static function of(Name $name, RecordType $type, Address $client): array
    {
        $reach = Resolving::reach();
        $names = Server::query()->pluck('name', 'endpoint')->all();
        $roots = array_values(Server::query()->where('kind', ServerKind::Roots)->get()->map(fn (Server $s): string => (string) $s->address)
            ->all());
        $steps = [];
        $question = new Question($name, $type);
        [$zone, $servers] = [Name::root(), $roots];
        while (count($steps) < self::MOST && $servers !== []) {
            $address = array_shift($servers);
            $endpoint = $reach[$address] ?? null;
            $step = [
                'zone' => rtrim((string) $zone, '.') ?: '.', 'server' => $endpoint === null ? '' : (string) ($names[$endpoint] ?? ''),
                'address' => $address, 'kind' => 'silent', 'words' => '', 'records' => [], 'milliseconds' => 0.0,
            ];
            try {
                $answer = $endpoint === null
                    ? throw Unanswered::closed($address, $address, 'it is not among the servers that are reached from here')
                    : (new DnsClient($step['server'], $endpoint, 1.5))->ask($question->name, $question->type, $client, false);
            } catch (Unanswered $e) {
                $steps[] = ['words' => $e->getMessage()] + $step;

                continue;
            }
            $referral = Referral::of($answer->message, $question, $zone);
            $records = $referral->kind === Referral::DELEGATION
                ? [...$answer->message->authority, ...$answer->message->additional]
                : $answer->message->answers;
            $steps[] = ['kind' => $referral->kind, 'milliseconds' => $answer->milliseconds, 'records' => $records, 'words' => match (
                $referral->kind
            ) {
                Referral::DELEGATION => 'sends on to '.(rtrim((string) $referral->zone, '.') ?: '.'),
                Referral::ALIAS => 'an alias of '.rtrim((string) $referral->alias, '.').': begins again at the root',
                Referral::LAME => $answer->message->rcode->explained().', though it is named as its server',
                default => $referral->kind.($answer->message->authoritative ? ', with authority' : ''),
            }] + $step;
            if ($referral->kind === Referral::DELEGATION && $referral->zone !== null) {
                [$zone, $servers] = [$referral->zone, array_map(strval(...), array_merge(...array_values($referral->glue), ...[[]]))];
                $servers !== [] ?: $steps[] = [
                    'zone' => rtrim((string) $zone, '.'),
                    'server' => '',
                    'address' => '',
                    'kind' => Referral::LAME,
                    'words' => 'no address came along for '.implode(', ', array_map(strval(...), $referral->servers)).': glue is missing',
                    'records' => [],
                    'milliseconds' => 0.0,
                ];
            } elseif ($referral->kind === Referral::ALIAS && $referral->alias !== null) {
                [$question, $zone, $servers] = [new Question($referral->alias, $type), Name::root(), $roots];
            } elseif ($referral->kind !== Referral::LAME) {
                break;
            }
        }

        return $steps;
    }
}
