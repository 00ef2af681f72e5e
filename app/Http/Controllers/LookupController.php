<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Links\DnsAnswer;
use App\Links\DnsClient;
use App\Links\Unanswered;
use App\Models\Server;
use App\Models\View as DnsView;
use App\Queries\ChangedSets;
use App\Queries\Descent;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\HoldsAddress;
use HarborPost\Core\Dns\Rdata\Ptr;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;
use Illuminate\Contracts\View\View;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Http\Request;

/** Questions by real packets: to one server, to all side by side, down from the roots, there and back; and what was changed, tested. */
final class LookupController extends Controller
{
    /** Whoever goes down from the roots is thought to be outside, unless a view is chosen. */
    private const OUTSIDE = '192.0.2.200';

    public function lookup(Request $request): View
    {
        $this->wholeOnly();
        $servers = Server::query()->whereIn('kind', ['dns', 'resolver', 'roots'])->orderBy('name')->get();
        $views = DnsView::query()->orderBy('position')->get();
        $way = $request->string('server')->toString();
        $data = ['servers' => $servers, 'views' => $views, 'answer' => null, 'problem' => null, 'asked' => null, 'way' => $way, 'all' => [], 'steps' => [], 'back' => [], 'server' => $servers->firstWhere('id', $way) ?? $servers->first()];
        $text = trim($request->string('q')->toString());
        if ($text === '' || $data['server'] === null) {
            return view('name.lookup', $data);
        }
        try {
            $address = Address::tryParse($text);
            $name = $address === null ? Name::parse(rtrim($text, '.').'.') : ReverseName::of($address);
            $type = RecordType::parse($request->string('type')->toString() ?: ($address === null ? 'A' : 'PTR'));
            $data['asked'] = "$name $type";
            $client = self::client($views->firstWhere('id', $request->string('view')->toString()), $request->string('client')->toString());
            $ask = fn (Server $s): DnsAnswer => (new DnsClient($s->name, $s->endpoint, (float) config('harbor.patience')))->ask($name, $type, $client, $request->filled('rd') ? $request->boolean('rd') : $s->kind === 'resolver', $request->boolean('tcp'));
            match ($way) {
                'all' => $data['all'] = self::sideBySide($servers->where('kind', '!=', 'roots'), $ask),
                'trace' => $data['steps'] = Descent::of($name, $type, $client ?? Address::parse(self::OUTSIDE)),
                'back' => $data['back'] = self::thereAndBack($name, $address, $servers, $client),
                default => $data['answer'] = $ask($data['server']),
            };
        } catch (Malformed|Unanswered $e) {
            $data['problem'] = $e->getMessage();
        }

        return view('name.lookup', $data);
    }

    public function test(Request $request): View
    {
        $this->wholeOnly();
        $zone = $this->reach()->zones()->with('view')->find($request->string('zone')->toString());
        $mine = $request->boolean('mine');

        return view('name.test', ['zone' => $zone, 'mine' => $mine, 'rows' => ChangedSets::of($zone, $mine ? $this->person()->id : null)]);
    }

    private static function client(?DnsView $view, string $typed): ?Address
    {
        $prefix = $view->clients[0] ?? null;

        return Address::tryParse($typed) ?? ($prefix === null ? null : Prefix::parse($prefix)->usable()->first);
    }

    /**
     * @param  Collection<int, Server>  $servers
     * @param  \Closure(Server): DnsAnswer  $ask
     * @return list<array{server: Server, answer: ?DnsAnswer, data: list<string>, ttl: ?int, trouble: string, odd: bool}> odd: not what most of those that answer say
     */
    private static function sideBySide(Collection $servers, \Closure $ask): array
    {
        $rows = [];
        foreach ($servers as $server) {
            try {
                $answer = $ask($server);
                $data = array_map(static fn ($r): string => "{$r->type()} {$r->data->text()}", $answer->message->answers);
                sort($data);
                $rows[] = ['server' => $server, 'answer' => $answer, 'data' => $data, 'ttl' => isset($answer->message->answers[0]) ? $answer->message->answers[0]->ttl : null, 'trouble' => '', 'odd' => false];
            } catch (Unanswered $e) {
                $rows[] = ['server' => $server, 'answer' => null, 'data' => [], 'ttl' => null, 'trouble' => $e->getMessage(), 'odd' => false];
            }
        }
        $votes = array_count_values(array_map(static fn (array $r): string => implode("\n", $r['data']), array_filter($rows, static fn (array $r): bool => $r['answer'] !== null && in_array($r['answer']->message->rcode->value, [0, 3], true))));
        arsort($votes);
        foreach ($rows as $i => $row) {
            $rows[$i]['odd'] = $row['answer'] !== null && in_array($row['answer']->message->rcode->value, [0, 3], true) && implode("\n", $row['data']) !== (string) array_key_first($votes);
        }

        return $rows;
    }

    /**
     * From a name to its addresses and from each back to names, or the other way round.
     *
     * @param  Collection<int, Server>  $servers
     * @return list<array{from: string, to: list<string>, back: array<string, list<string>>, agrees: bool}>
     */
    private static function thereAndBack(Name $name, ?Address $address, Collection $servers, ?Address $client): array
    {
        $ask = static function (Name $n, int $type) use ($servers, $client): array {
            foreach ($servers->where('kind', '!=', 'roots') as $server) {
                $message = (new DnsClient($server->name, $server->endpoint, 1.0))->ask($n, RecordType::of($type), $client, $server->kind === 'resolver')->message;
                if ($message->answers !== []) {
                    return array_map(static fn ($r) => $r->data, $message->answers);
                }
            }

            return [];
        };
        $addresses = static fn (Name $n): array => array_values(array_map(static fn (HoldsAddress $d): string => (string) $d->address(), array_filter([...$ask($n, RecordType::A), ...$ask($n, RecordType::AAAA)], static fn ($d): bool => $d instanceof HoldsAddress)));
        $pointers = static fn (Address $a): array => array_values(array_map(static fn (Ptr $d): string => rtrim((string) $d->target->lower(), '.'), array_filter($ask(ReverseName::of($a), RecordType::PTR), static fn ($d): bool => $d instanceof Ptr)));
        $from = $address === null ? rtrim((string) $name->lower(), '.') : (string) $address;
        $to = $address === null ? $addresses($name) : $pointers($address);
        $back = [];
        foreach ($to as $one) {
            $back[$one] = $address === null ? $pointers(Address::parse($one)) : $addresses(Name::parse("$one."));
        }

        return [['from' => $from, 'to' => $to, 'back' => $back, 'agrees' => $to !== [] && array_filter($back, static fn (array $b): bool => ! in_array($from, $b, true)) === []]];
    }
}
