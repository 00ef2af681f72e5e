<?php

declare(strict_types=1);

namespace App\Console;

use App\Links\Names\DnsClient;
use App\Links\Unanswered;
use App\Models\TransferKey;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Zone\UpdateRequest;
use HarborPost\Core\Net\Address;

final class DnsUpdate extends Computes
{
    use NamesServer;

    protected $signature = 'dns:update {zone} {--server= : name of a server, or address:port} {--key= : name of a key that signs it}
        {--for= : a client address, by which the server chooses the view}
        {--add=* : "NAME TTL TYPE DATA"} {--remove=* : "NAME", "NAME TYPE" or "NAME TYPE DATA"}
        {--used=* : "NAME" or "NAME TYPE" that must be there} {--free=* : "NAME" or "NAME TYPE" that must not be there} {--json}';

    protected $description = 'Sends a dynamic update (RFC 2136) with its prerequisites; exit status 1 when it is not taken';

    public function handle(): int
    {
        $named = $this->serverNamed((string) $this->option('server'));
        if ($named === null) {
            return 2;
        }
        $keyName = (string) $this->option('key');
        $key = $keyName === '' ? null : TransferKey::query()->where('name', strtolower(rtrim($keyName, '.')).'.')->first();
        if ($keyName !== '' && $key === null) {
            return $this->unusable("--key=$keyName: no key has that name");
        }
        try {
            $zone = Name::parse(rtrim((string) $this->argument('zone'), '.').'.');
            $prerequisites = [
                ...$this->each('used', fn (array $w): Record => UpdateRequest::whole($this->owner($w, $zone), $this->type($w))),
                ...$this->each('free', fn (array $w): Record => UpdateRequest::none($this->owner($w, $zone), $this->type($w))),
            ];
            $changes = [
                ...$this->each('remove', fn (array $w): Record => $this->removal($w, $zone)),
                ...$this->each('add', fn (array $w): Record => $this->addition($w, $zone)),
            ];
        } catch (Malformed $e) {
            return $this->unusable($e->getMessage());
        }
        if ($changes === [] && $prerequisites === []) {
            return $this->unusable('say what to do with --add or --remove');
        }
        try {
            $client = new DnsClient($named[0]->name ?? $named[1], $named[1], (float) config('harbor.patience'), $key?->tsig());
            $rcode = $client->update(new UpdateRequest($zone, $prerequisites, $changes), Address::tryParse((string) $this->option('for')));
        } catch (Unanswered $e) {
            $this->err($e->getMessage());

            return 1;
        }
        $this->option('json')
            ? $this->json(['zone' => (string) $zone, 'rcode' => $rcode->name])
            : $this->say($rcode === Rcode::NoError ? 'taken' : $rcode->explained()." ($rcode->name)");

        return $rcode === Rcode::NoError ? 0 : 1;
    }

    /**
     * @param  \Closure(list<string>): Record  $record
     * @return list<Record>
     */
    private function each(string $option, \Closure $record): array
    {
        return array_values(
            array_map(
                static fn (mixed $text): Record => $record(
                    preg_split('/\s+/', trim(is_scalar($text) ? (string) $text : ''), 4, PREG_SPLIT_NO_EMPTY) ?: [],
                ),
                (array) $this->option($option),
            ),
        );
    }

    /** @param  list<string>  $words */
    private function owner(array $words, Name $zone): Name
    {
        return Name::parse($words[0] ?? '', $zone);
    }

    /** @param  list<string>  $words */
    private function type(array $words): RecordType
    {
        return isset($words[1]) ? RecordType::parse($words[1]) : RecordType::of(RecordType::ANY);
    }

    /** @param  list<string>  $words */
    private function removal(array $words, Name $zone): Record
    {
        $owner = $this->owner($words, $zone);
        $type = $this->type($words);
        $data = implode(' ', array_slice($words, 2));

        return $data === ''
            ? UpdateRequest::whole($owner, $type)
            : UpdateRequest::less(new Record($owner, 0, RdataTypes::fromText($type, Fields::ofLine($data, $zone))));
    }

    /** @param  list<string>  $words */
    private function addition(array $words, Name $zone): Record
    {
        if (count($words) < 4 || preg_match('/\A\d{1,9}\z/', $words[1]) !== 1) {
            throw Malformed::because('--add takes "NAME TTL TYPE DATA"', 'RFC 2136 §2.5.1');
        }

        return new Record(
            $this->owner($words, $zone),
            (int) $words[1],
            RdataTypes::fromText(RecordType::parse($words[2]), Fields::ofLine($words[3], $zone)),
        );
    }
}
