<?php

declare(strict_types=1);

namespace App\Console;

use App\Links\Names\DnsAnswer;
use App\Links\Names\DnsClient;
use App\Links\Unanswered;
use App\Models\ServerKind;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Net\Address;

final class DnsAsk extends Computes
{
    use NamesServer;

    protected $signature = 'dns:ask {name : a name, or an address for its PTR} {type? : A, or PTR for an address} {--server= : '
        .'name of a server, or address:port} {--tcp : over TCP from the start} {--rd= : recursion desired, 1 or 0; a resolver '
            .'is asked with 1} {--json}';

    protected $description = 'Asks a server by a real packet; exit status 1 when it has no such record or does not answer';

    public function handle(): int
    {
        $asked = (string) $this->option('server');
        $rd = $this->option('rd');
        if ($rd !== null && ! in_array($rd, ['0', '1'], true)) {
            return $this->unusable("--rd=$rd: expected 1 or 0");
        }
        $named = $this->serverNamed($asked);
        if ($named === null) {
            return 2;
        }
        [$server, $endpoint] = $named;
        try {
            $text = (string) $this->argument('name');
            $address = Address::tryParse($text);
            $name = $address === null ? Name::parse(rtrim($text, '.').'.') : ReverseName::of($address);
            $type = RecordType::parse((string) ($this->argument('type') ?? ($address === null ? 'A' : 'PTR')));
        } catch (Malformed $e) {
            return $this->unusable($e->getMessage());
        }
        try {
            $client = new DnsClient($server->name ?? $asked, $endpoint, (float) config('harbor.patience'));
            $answer = $client->ask(
                $name,
                $type,
                null,
                $rd === null ? $server?->kind === ServerKind::Resolver : $rd === '1',
                (bool) $this->option('tcp'),
            );
        } catch (Unanswered $e) {
            $this->err($e->getMessage());

            return 1;
        }
        $this->option('json') ? $this->json($this->facts($answer, $name, $type)) : $this->print($answer, $name, $type);

        return $answer->message->rcode === Rcode::NoError && $answer->message->answers !== [] ? 0 : 1;
    }

    /** @return array<string, mixed> */
    private function facts(DnsAnswer $answer, Name $name, RecordType $type): array
    {
        $m = $answer->message;
        $rows = fn (array $records): array => array_map(
            fn (Record $r): array => [
                'name' => (string) $r->owner, 'ttl' => $r->ttl, 'type' => (string) $r->type(), 'data' => $r->data->text(),
            ],
            $records,
        );

        return [
            'name' => (string) $name, 'type' => (string) $type, 'rcode' => $m->rcode->name, 'flags' => $m->flagNames(),
            'over' => $answer->over,
            'cut' => $answer->wasTruncated, 'bytes' => strlen($answer->received), 'answer' => $rows($m->answers),
            'authority' => $rows($m->authority), 'additional' => $rows($m->additional),
        ];
    }

    private function print(DnsAnswer $answer, Name $name, RecordType $type): void
    {
        $m = $answer->message;
        $this->say(
            sprintf(
                '; %s %s: %s (%s), %s, %d bytes, %.1f ms%s',
                $name,
                $type,
                $m->rcode->explained(),
                implode(' ', $m->flagNames()),
                $answer->over,
                strlen($answer->received),
                $answer->milliseconds,
                $answer->wasTruncated ? ', cut over UDP and asked again over TCP' : '',
            ),
        );
        foreach (['answer' => $m->answers, 'authority' => $m->authority, 'additional' => $m->additional] as $section => $records) {
            foreach ($records as $record) {
                $this->say("$record ; $section");
            }
        }
    }
}
