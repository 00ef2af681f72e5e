<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\PortProfile;
use App\Queries\PortChecks;
use Illuminate\Database\Eloquent\Collection;

/** Ports of switches as profiles mean them: compared, set and read back, one profile at a time. Ports without a profile are left alone. */
final readonly class SwitchPorts
{
    public const KIND = 'profile';

    public function __construct(private NetworkLink $network)
    {
    }

    /** @return list<Difference> one a profile that has ports */
    public function compare(): array
    {
        $profiles = PortProfile::query()->with(['domain', 'native', 'voice', 'ports'])->whereHas('ports')->orderBy('name')->get();
        if ($profiles->isEmpty()) {
            return [];
        }
        $brought = Brought::to($this->network->server->id, self::KIND);
        $checks = PortChecks::compare($profiles, $this->known($profiles));

        return array_values($profiles->map(static fn (PortProfile $p): Difference => self::difference(
            $p,
            $checks[$p->id],
            ($brought[$p->id] ?? null) === PortChecks::digest($p),
        ))->all());
    }

    public function apply(string $id): void
    {
        $profile = $this->profile($id);
        $known = $profile === null ? [] : $this->known(new Collection([$profile]));
        $set = [];
        foreach ($profile->ports ?? [] as $port) {
            // Only what the switch has can be set.
            if (isset($known["$port->domain_id\n$port->device\n$port->port"]) && $profile !== null) {
                $set[] = ['domain' => $profile->domain->name, 'device' => $port->device, 'port' => $port->port] + $profile->form();
            }
        }
        $set === [] ?: $this->network->setPorts($set);
    }

    public function verify(string $id): string
    {
        $profile = $this->profile($id);
        if ($profile === null) {
            return 'the profile is gone; its ports stay as they are';
        }
        $check = PortChecks::compare(new Collection([$profile]), $this->known(new Collection([$profile])))[$id];
        if ($check['lacking'] !== []) {
            $first = $check['lacking'][0];
            throw Unanswered::refused(
                $this->network->server->name,
                'read back, '.count($check['lacking'])." ports are set otherwise: $first[port] is $first[is]",
            );
        }

        return 'read back from the switches: '.count($check['right']).' ports are '.PortProfile::words($profile->form())
            .($check['unknown'] === [] ? '' : '; '.count($check['unknown']).' are on no switch yet');
    }

    /** @param  array{right: list<string>, lacking: list<array{port: string, is: string}>, unknown: list<string>}  $check */
    private static function difference(PortProfile $profile, array $check, bool $asBrought): Difference
    {
        $meant = PortProfile::words($profile->form());
        $removed = array_map(static fn (array $l): string => "$l[port]: $l[is]", $check['lacking']);
        $added = array_map(static fn (array $l): string => "$l[port]: $meant", $check['lacking']);
        $unknown = count($check['unknown']);

        return new Difference(
            self::KIND,
            $profile->id,
            "{$profile->domain->name} ports $profile->name",
            match (true) {
                $check['lacking'] !== [] => DifferenceState::Differs,
                $check['right'] === [] => DifferenceState::Waiting,
                default => DifferenceState::Same,
            },
            array_slice($removed, 0, Difference::LISTED),
            array_slice($added, 0, Difference::LISTED),
            count($removed),
            count($added),
            $unknown === 0 ? '' : ($unknown === 1 ? '1 port is on no switch: ' : "$unknown ports are on no switch: ").$check['unknown'][0]
                .($unknown > 1 ? ' and more' : ''),
            drifted: $check['lacking'] !== [] && $asBrought,
        );
    }

    private function profile(string $id): ?PortProfile
    {
        return PortProfile::query()->with(['domain', 'native', 'voice', 'ports'])->find($id);
    }

    /**
     * @param  Collection<int, PortProfile>  $profiles
     * @return array<string, array{native: ?int, voice: ?int, lldp: bool, poe: bool, priority: int}> "domain id\ndevice\nport" → as it is
     */
    private function known(Collection $profiles): array
    {
        $domains = $profiles->mapWithKeys(static fn (PortProfile $p): array => [$p->domain->name => $p->domain_id])->all();
        $known = [];
        foreach ($this->network->ports() as $port) {
            $domain = $domains[$port['domain']] ?? null;
            if ($domain !== null) {
                $known["$domain\n$port[device]\n$port[port]"] = [
                    'native' => $port['native'], 'voice' => $port['voice'], 'lldp' => $port['lldp'], 'poe' => $port['poe'],
                    'priority' => $port['priority'],
                ];
            }
        }

        return $known;
    }
}
