<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\Reservations;
use App\Domain\Lease\ReservationsV6;
use App\Models\Ability;
use App\Models\Person;
use App\Models\Scope;
use App\Queries\Granted;
use App\Queries\Reach;
use HarborPost\Core\Dhcp\Client\ClientKey;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\NotUnderstood;

/** Reservations from a pasted list, one a line: address, client and name in any order that can be told apart. All of them or none. */
final readonly class PasteReservations extends Act
{
    public const MOST = 1000;

    public function __construct(
        #[Field(Kind::Id, 'Scope', of: Scope::class)]
        public string $scope,
        #[Field(Kind::Text, 'Reservations', 'An address, a MAC address or 0x… and a name, one reservation a line', most: 200000)]
        public string $lines,
    ) {
    }

    public function title(): string
    {
        return 'Reserve addresses for pasted clients';
    }

    public static function may(Person $person): bool
    {
        return Granted::works($person, Ability::Leases);
    }

    public function landing(): string
    {
        return at('lease.scope', $this->scope);
    }

    public function apply(Ledger $ledger): void
    {
        $scope = ($ledger->person === null ? Scope::query() : Reach::of($ledger->person)->scopes())->with('prefix')->find($this->scope)
            ?? $ledger->refuse('gone', 'This scope is not available to you');
        $lines = array_filter(array_map(trim(...), preg_split('/\R/', $this->lines) ?: []), static fn (string $l): bool => $l !== '');
        if ($lines === [] || count($lines) > self::MOST) {
            $ledger->refuse('bad-count', 'From 1 to '.self::MOST.' reservations at once', 'One a line.', null, 'lines');
        }
        $seen = [];
        foreach ($lines as $i => $line) {
            if ($scope->prefix->family === 6) {
                $this->writeV6($ledger, $scope, (int) $i + 1, $line);

                continue;
            }
            [$address, $client, $name] = $this->read($ledger, (int) $i + 1, $line);
            foreach ([(string) $address, (string) $client] as $key) {
                if (isset($seen[$key])) {
                    $ledger->refuse('twice', 'Line '.((int) $i + 1).": $key stands in line $seen[$key] already", field: 'lines');
                }
                $seen[$key] = (int) $i + 1;
            }
            Reservations::write($ledger, $scope, $address, $client, $name, null);
        }
    }

    /** Of IPv6: an address or a prefix, a DUID, "iaid 7" where one number is meant, and a name. */
    private function writeV6(Ledger $ledger, Scope $scope, int $number, string $line): void
    {
        if (preg_match('/\A([^\s,;]+)[\s,;]+([0-9a-fx:-]+(?:\s+iaid\s+\d+)?)(?:[\s,;]+(\S+))?\z/i', $line, $m) !== 1) {
            $ledger->refuse(
                'bad-line',
                "Line $number, \"".mb_strimwidth($line, 0, 80, '…').'": an address or a prefix, a DUID and a name are expected',
                'For instance: 2001:db8:36:1::40 00:03:00:01:00:00:5e:00:53:17 printer-2',
                null,
                'lines',
            );
        }
        ReservationsV6::typed($ledger, $scope, $m[1], $m[2], mb_substr($m[3] ?? '', 0, 120));
    }

    /** @return array{Address, ClientKey, string} */
    private function read(Ledger $ledger, int $number, string $line): array
    {
        $address = $client = null;
        $names = [];
        foreach (preg_split('/[\s,;]+/', $line, -1, PREG_SPLIT_NO_EMPTY) ?: [] as $word) {
            $found = $address === null ? Address::tryParse($word) : null;
            $key = $found === null && $client === null ? self::client($word) : null;
            match (true) {
                $found !== null => $address = $found,
                $key !== null => $client = $key,
                default => $names[] = $word,
            };
        }
        if ($address === null || $client === null || count($names) > 1) {
            $lacks = match (true) {
                $address === null => 'an address is missing',
                $client === null => 'a MAC address or a client identifier as 0x… is missing',
                default => '"'.implode('", "', $names).'" are more than one name',
            };
            $ledger->refuse(
                'bad-line',
                "Line $number, \"".mb_strimwidth($line, 0, 80, '…')."\": $lacks",
                'For instance: 192.0.2.40 00:00:5e:00:53:17 printer-2',
                null,
                'lines',
            );
        }

        return [$address, $client, mb_substr($names[0] ?? '', 0, 120)];
    }

    private static function client(string $word): ?ClientKey
    {
        if (preg_match('/\A(0x|[0-9a-f]{2}[:-])|\A[0-9a-f]{4}\.|\A[0-9a-f]{12}\z/i', $word) !== 1) {
            return null;
        }
        try {
            return ClientKey::parse($word);
        } catch (NotUnderstood) {
            return null;
        }
    }
}
