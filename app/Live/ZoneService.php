<?php

declare(strict_types=1);

namespace App\Live;

use App\Domain\Name\ZoneApex;
use App\Links\Links;
use App\Links\Names\NameLink;
use App\Links\Unanswered;
use App\Models\Part;
use App\Models\Record;
use App\Models\Speaks;
use App\Models\Zone;
use App\Models\ZoneServer;
use Carbon\CarbonImmutable;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Ns;
use HarborPost\Core\Dns\Record as DnsRecord;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Rcode;

/**
 * How a zone is served, measured now: each server's serial by a packet, each secondary's way there step by step, and which machine holds
 * it up.
 */
final class ZoneService
{
    /** @var array<string, array<string, mixed>|string> server → what it says of the zone, or why it says nothing */
    private array $said = [];

    /** @var array<string, Serial|string|null> server → serial by packet, or the trouble */
    private array $serials = [];

    private function __construct(public readonly Zone $zone)
    {
        foreach ($zone->placements as $placement) {
            $id = $placement->server_id;
            try {
                $link = Links::to($placement->server);
                $this->serials[$id] = $link instanceof NameLink ? $link->reader()->serial($zone->origin(), $zone->clientInView()) : null;
                $this->said[$id] = $link instanceof NameLink ? $link->told($zone) : [];
            } catch (Unanswered $e) {
                $this->serials[$id] ??= $e->getMessage();
                $this->said[$id] = $e->getMessage();
            }
        }
    }

    /** @param  Zone  $zone  with view and placements.server */
    public static function of(Zone $zone): self
    {
        return new self($zone);
    }

    /**
     * One row a server.
     *
     * @return list<array{placement: ZoneServer, serial: ?string, step: string, words: string, refreshed: ?CarbonImmutable,
     *     next: ?CarbonImmutable, expires: ?CarbonImmutable, transfer: string, trouble: string}>
     */
    public function servers(): array
    {
        $rows = [];
        $primary = $this->serials[$this->zone->primaryPlacement()->server_id ?? ''] ?? null;
        $reference = $primary instanceof Serial ? $primary : Serial::of($this->zone->serial);
        foreach ($this->zone->placements->sortBy('part.value') as $placement) {
            $serial = $this->serials[$placement->server_id] ?? null;
            $said = $this->said[$placement->server_id] ?? [];
            $time = static fn (string $key): ?CarbonImmutable => is_array($said)
                && is_int($said[$key] ?? null)
                    ? CarbonImmutable::createFromTimestamp($said[$key] - ((is_int($said['now'] ?? null) ? $said['now'] : time()) - time()))
                    : null;
            $step = match (true) {
                is_string($serial) => 'silent',
                is_array($said) && ($said['expired'] ?? false) === true => 'expired',
                $serial === null => 'none',
                $serial->equals($reference) => 'same',
                $serial->isBefore($reference) => 'behind',
                default => 'ahead',
            };
            $rows[] = [
                'placement' => $placement, 'serial' => $serial instanceof Serial ? (string) $serial : null, 'step' => $step,
                'words' => [
                    'silent' => 'does not answer', 'expired' => 'expired: answers nothing', 'none' => 'does not have it',
                    'same' => $placement->part === Part::Primary ? 'the reference' : 'in step', 'behind' => 'behind',
                    'ahead' => 'ahead of the primary',
                ][$step],
                'refreshed' => $time('refreshed'),
                'next' => $time('next'),
                'expires' => $time('expires'),
                'transfer' => is_array($said) && is_string($said['transfer'] ?? null) ? $said['transfer'] : '',
                'trouble' => is_string($said) ? $said : (is_string($said['trouble'] ?? null) ? $said['trouble'] : ''),
            ];
        }

        return $rows;
    }

    /** Has the primary a serial that we did not give it? Somebody else wrote there, by dynamic update for instance. */
    public function drift(): bool
    {
        $primary = $this->serials[$this->zone->primaryPlacement()->server_id ?? ''] ?? null;

        return $primary instanceof Serial && Serial::of($this->zone->serial)->isBefore($primary);
    }

    /**
     * The way of a secondary, in order; the first step that is not done holds up the rest.
     *
     * @return list<array{step: string, state: 'done'|'held'|'waits', words: string, machine: string, link: ?string}>
     */
    public function way(ZoneServer $placement): array
    {
        $primary = $this->zone->primaryPlacement();
        $name = ZoneApex::nameOf($placement->server, $this->zone->origin());
        $serial = $this->serials[$placement->server_id] ?? null;
        $steps = (new SecondaryWay(
            $this->zone, $placement, $primary, $name, $this->said[$placement->server_id] ?? [],
            $primary === null ? [] : ($this->said[$primary->server_id] ?? []), $serial, $this->answered($primary, $name),
        ))->steps($serial instanceof Serial && $this->inStep($serial), $this->primarySerial());
        $held = false;
        $way = [];
        foreach ($steps as [$step, $done, $words, $machine, $link]) {
            // The address record does not hold up copying; it is needed when the NS is listed.
            $first = $step === SecondaryWay::ADDRESS;
            $way[] = [
                'step' => $step, 'state' => $done ? 'done' : ($held || $first ? 'waits' : 'held'),
                'words' => $words, 'machine' => $machine, 'link' => $done ? null : $link,
            ];
            $held = $held || ! $done && ! $first;
        }

        return $way;
    }

    /**
     * What the primary answers by packets of a secondary's name.
     *
     * @return array{listed: ?bool, address: ?bool} is it among the NS, has it an address; null where the primary says nothing, or does not
     *     hold the name
     */
    private function answered(?ZoneServer $primary, Name $name): array
    {
        $link = $primary === null || ! ($this->serials[$primary->server_id] ?? null) instanceof Serial ? null : Links::to($primary->server);
        if (! $link instanceof NameLink) {
            return ['listed' => null, 'address' => null];
        }
        try {
            $ask = fn (Name $of, int $type): Message => $link->reader()
                ->ask($of, RecordType::of($type), $this->zone->clientInView(), false)->message;
            $told = $ask($this->zone->origin(), RecordType::NS);
            if ($told->rcode === Rcode::Refused) {
                // A primary that no client asks says so: what it hands out is seen at those who copy it.
                return ['listed' => null, 'address' => null];
            }
            $servers = array_map(
                fn (DnsRecord $r): bool => $r->data instanceof Ns && $r->data->target->equals($name),
                $told->answers,
            );
            $four = $ask($name, RecordType::A);
            $held = $four->authoritative && $four->rcode !== Rcode::Refused;

            return [
                'listed' => in_array(true, $servers, true),
                'address' => $held ? $four->answers !== [] || $ask($name, RecordType::AAAA)->answers !== [] : null,
            ];
        } catch (Unanswered) {
            return ['listed' => null, 'address' => null];
        }
    }

    /** @return list<string> conditions for lapse to be in force that do not hold; empty when it is */
    public function lapseFaults(): array
    {
        $primary = $this->zone->primaryPlacement();
        $said = $this->said[$primary->server_id ?? ''] ?? [];
        $running = is_array($said) && is_array($said['settings'] ?? null) ? $said['settings']['lapse'] ?? null : null;
        $byHand = $primary?->server->speaks === Speaks::Standard;

        return array_values(array_filter([
            $this->zone->lapse_after === null ? 'no lifetime is set' : null,
            $this->zone->update_mode === 'refused' ? 'updates are refused, so no client can register or renew' : null,
            $this->zone->silenced ? 'the zone is silenced' : null,
            $primary === null ? 'the zone has no primary' : (is_string($said) ? $said : null),
            $byHand && $this->zone->lapse_after !== null
                ? ($primary->server->name ?? 'the primary').' is reached by the standards alone, which know no lifetime'
                : null,
            ! $byHand && $this->zone->lapse_after !== null
                && is_array($said)
                && $running !== ['after' => $this->zone->lapse_after, 'quiet' => $this->zone->lapse_quiet]
                    ? ($primary->server->name ?? 'the primary').' is not told yet; ship to it'
                    : null,
        ]));
    }

    /** @return array<string, int> "owner type" → when it was last renewed, as the primary says */
    public function renewals(): array
    {
        $primary = $this->zone->primaryPlacement();
        try {
            $link = $primary === null ? null : Links::to($primary->server);

            return $link instanceof NameLink ? $link->renewals($this->zone) : [];
        } catch (Unanswered) {
            return [];
        }
    }

    private function inStep(Serial $serial): bool
    {
        return (string) $serial === $this->primarySerial();
    }

    private function primarySerial(): string
    {
        $primary = $this->serials[$this->zone->primaryPlacement()->server_id ?? ''] ?? null;

        return $primary instanceof Serial ? (string) $primary : (string) $this->zone->serial;
    }

    /** The name under which a set stands, relative to the zone. */
    public function relative(string $owner): string
    {
        return Name::tryParse($owner)?->relativeTo($this->zone->origin()) ?? $owner;
    }
}
