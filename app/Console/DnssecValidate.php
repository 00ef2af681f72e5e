<?php

declare(strict_types=1);

namespace App\Console;

use App\Links\Unanswered;
use App\Live\TrustChain;
use App\Models\Server;
use App\Models\ServerKind;
use HarborPost\Core\Dns\Dnssec\Trust;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;

/** Whether an answer is proved: exit status 0 secure, 1 anything else, 2 unusable input. */
final class DnssecValidate extends Computes
{
    use NamesServer;

    protected $signature = 'dnssec:validate {name} {type=A} {--server= : name of a server, or address:port} '
        .'{--anchor=* : "ZONE DS …" or "ZONE DNSKEY …"; those that the server is meant to hold otherwise} {--json}';

    protected $description = 'Walks the chain of trust to an answer through the answers of one server';

    public function handle(): int
    {
        $named = $this->serverNamed((string) $this->option('server'));
        if ($named === null) {
            return 2;
        }
        [$server, $endpoint] = $named;
        try {
            $anchors = array_map(TrustChain::anchor(...), array_map(strval(...), array_values((array) $this->option('anchor'))));
            $asked = $server ?? new Server(['name' => $endpoint, 'kind' => ServerKind::Resolver, 'endpoint' => $endpoint]);
            $chain = TrustChain::of(
                $asked,
                Name::parse(rtrim((string) $this->argument('name'), '.').'.'),
                RecordType::parse((string) $this->argument('type')),
                $anchors === [] ? TrustChain::anchorsOf($asked) : $anchors,
            );
        } catch (Malformed $e) {
            return $this->unusable($e->getMessage());
        } catch (Unanswered $e) {
            $this->err($e->getMessage());

            return 1;
        }
        $links = array_map(static fn (array $l): array => ['trust' => $l['trust']->value] + $l, $chain->links());
        if ($this->option('json')) {
            $this->json([
                'trust' => $chain->verdict->trust->value, 'words' => $chain->verdict->words(), 'code' => $chain->verdict->fault?->code(),
                'server_says' => ['rcode' => $chain->rcode->name, 'ad' => $chain->says], 'links' => $links,
            ]);
        } else {
            foreach ($links as $link) {
                $this->say("$link[zone]: $link[words]".($link['keys'] === [] ? '' : ', keys '.implode(', ', $link['keys'])));
            }
            $this->say($chain->verdict->words());
        }

        return $chain->verdict->trust === Trust::Secure ? 0 : 1;
    }
}
