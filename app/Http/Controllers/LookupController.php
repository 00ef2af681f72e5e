<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Links\Names\DnsAnswer;
use App\Links\Names\DnsClient;
use App\Links\Unanswered;
use App\Live\ChangedSets;
use App\Live\Descent;
use App\Live\Lookups;
use App\Live\TrustChain;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\View as DnsView;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;

/** Questions by real packets: to one server, to all side by side, down from the roots, there and back; and what was changed, tested. */
final class LookupController extends Controller
{
    /** Whoever goes down from the roots is thought to be outside, unless a view is chosen. */
    private const OUTSIDE = '192.0.2.200';

    public function lookup(Request $request): View
    {
        $this->wholeOnly();
        $servers = Server::answering(ServerKind::asked())->orderBy('name')->get();
        $views = DnsView::query()->orderBy('position')->get();
        $way = $request->string('server')->toString();
        $data = [
            'servers' => $servers, 'views' => $views, 'answer' => null, 'problem' => null, 'asked' => null, 'way' => $way, 'all' => [],
            'steps' => [], 'back' => [], 'server' => $servers->firstWhere('id', $way) ?? $servers->first(),
        ];
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
            $ask = fn (Server $s): DnsAnswer => (new DnsClient($s->name, $s->endpoint, (float) config('harbor.patience')))->ask(
                $name,
                $type,
                $client,
                $request->filled('rd') ? $request->boolean('rd') : $s->kind === ServerKind::Resolver,
                $request->boolean('tcp'),
                $request->boolean('cd'),
                $request->boolean('do'),
            );
            match ($way) {
                'all' => $data['all'] = Lookups::sideBySide($servers->where('kind', '!=', ServerKind::Roots), $ask),
                'trace' => $data['steps'] = Descent::of($name, $type, $client ?? Address::parse(self::OUTSIDE)),
                'back' => $data['back'] = Lookups::thereAndBack($name, $address, $servers, $client),
                default => $data['answer'] = $ask($data['server']),
            };
            if ($data['answer'] !== null && $request->boolean('do')) {
                $data += self::trust($data['server'], $name, $type, $client);
            }
        } catch (Malformed|Unanswered $e) {
            $data['problem'] = $e->getMessage();
        }

        return view('name.lookup', $data);
    }

    /**
     * The same question without DO beside it, and the chain of trust through the answers of that server.
     *
     * @return array{chain: TrustChain, plain: DnsAnswer, anchored: bool}
     */
    private static function trust(Server $server, Name $name, RecordType $type, ?Address $client): array
    {
        $anchors = TrustChain::anchorsOf($server);
        // A server without anchors of its own is judged by those of the others.
        foreach ($anchors !== [] ? [] : Server::query()->whereNotNull('resolving')->get() as $other) {
            $anchors = [...$anchors, ...TrustChain::anchorsOf($other)];
        }
        $recursion = $server->kind === ServerKind::Resolver || ($server->resolving['recursion'] ?? false);
        $dns = new DnsClient($server->name, $server->endpoint, (float) config('harbor.patience'));

        return [
            'chain' => TrustChain::of($server, $name, $type, $anchors, $client), 'plain' => $dns->ask($name, $type, $client, $recursion),
            'anchored' => TrustChain::anchorsOf($server) !== [],
        ];
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
}
