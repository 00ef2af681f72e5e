<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\PortProfile;
use App\Models\SwitchPort;
use Illuminate\Database\Eloquent\Collection;

/** Which ports are set as their profile means, which are not, and which the switches do not have. */
final class PortChecks
{
    /**
     * By what the switches said when they were read.
     *
     * @param  Collection<int, PortProfile>  $profiles  with native, voice and ports
     * @return array<string, array{right: list<string>, lacking: list<array{port: string, is: string}>, unknown: list<string>}> by profile
     */
    public static function of(Collection $profiles): array
    {
        $known = SwitchPort::query()->whereIn('domain_id', $profiles->pluck('domain_id')->unique()->values())->get()
            ->mapWithKeys(static fn (SwitchPort $p): array => ["$p->domain_id\n$p->device\n$p->port" => $p->form()])->all();

        return self::compare($profiles, $known);
    }

    /**
     * @param  Collection<int, PortProfile>  $profiles
     * @param  array<string, array{native: ?int, voice: ?int, lldp: bool, poe: bool, priority: int}>  $known  by "domain id\ndevice\nport"
     * @return array<string, array{right: list<string>, lacking: list<array{port: string, is: string}>, unknown: list<string>}>
     */
    public static function compare(Collection $profiles, array $known): array
    {
        $checks = [];
        foreach ($profiles as $profile) {
            $meant = $profile->form();
            $check = ['right' => [], 'lacking' => [], 'unknown' => []];
            foreach ($profile->ports as $port) {
                $is = $known["$port->domain_id\n$port->device\n$port->port"] ?? null;
                if ($is === null) {
                    $check['unknown'][] = $port->line();
                } elseif ($is === $meant) {
                    $check['right'][] = $port->line();
                } else {
                    $check['lacking'][] = ['port' => $port->line(), 'is' => PortProfile::words($is)];
                }
            }
            $checks[$profile->id] = $check;
        }

        return $checks;
    }

    public static function digest(PortProfile $profile): string
    {
        $ports = $profile->ports->map(static fn ($p): string => $p->line())->sort()->values()->all();

        return hash('sha256', json_encode([$profile->form(), $ports], JSON_THROW_ON_ERROR));
    }
}
