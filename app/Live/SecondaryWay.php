<?php

declare(strict_types=1);

namespace App\Live;

use App\Models\Part;
use App\Models\Record;
use App\Models\Speaks;
use App\Models\Zone;
use App\Models\ZoneServer;
use App\Queries\Zones;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Net\Prefix;

/**
 * The way of a server to be a secondary of a zone, step by step: what is planned, what each server says of itself, and what packets showed.
 *
 * A step: what it is called, whether it is done, words, the machine that has the word, and the page that leads on.
 *
 * @phpstan-type Step array{string, bool, string, string, ?string}
 */
final readonly class SecondaryWay
{
    /** The first step, which holds up none of the others. */
    public const ADDRESS = 'Address record';

    private string $owner;

    private string $primaryName;

    /**
     * @param  array<mixed>|string  $said  what the server tells of the zone, or why it tells nothing
     * @param  array<mixed>|string  $primarySays  as above, of its primary
     * @param  Serial|string|null  $serial  that it answers, or why it answers none
     * @param  array{listed: ?bool, address: ?bool}  $answers  of the primary about the name of the server
     */
    public function __construct(
        private Zone $zone,
        private ZoneServer $placement,
        private ?ZoneServer $primary,
        private Name $name,
        private array|string $said,
        private array|string $primarySays,
        private Serial|string|null $serial,
        private array $answers,
    ) {
        $this->owner = rtrim((string) $name, '.');
        $this->primaryName = $primary->server->name ?? 'the primary';
    }

    /**
     * @param  bool  $inStep  has it the serial of the primary?
     * @return list<Step>
     */
    public function steps(bool $inStep, string $primarySerial): array
    {
        return [
            $this->address(), $this->mayCopy(), $this->knowsItsPrimary(), $this->transfer(), $this->authority(),
            $this->inStep($inStep, $primarySerial), $this->listed(),
        ];
    }

    /** @return Step */
    private function address(): array
    {
        $home = Zones::closest($this->name, $this->zone->view_id);
        $there = $home !== null
            && Record::query()->where('zone_id', $home->id)->where('owner_key', $this->name->sortKey())
                ->whereIn('type', [RecordType::A, RecordType::AAAA])->exists();
        $answered = $this->answers['address'];
        $words = match (true) {
            $there && $answered === false => "$this->owner has one in the plan, which is not answered yet",
            $there => "$this->owner has one".($answered === null ? '' : ", $this->primaryName answers it"),
            $home === null => "no zone of ours holds $this->name",
            default => "$this->owner has none; it comes with the NS",
        };
        $page = $home === null ? null : at('name.zone', $home->id).'?filter='.urlencode($this->owner);

        return [self::ADDRESS, $there && $answered !== false, $words, 'the plan', $page];
    }

    /** @return Step */
    private function mayCopy(): array
    {
        $planned = $this->zone->transferList();
        $settings = is_array($this->primarySays) && is_array($this->primarySays['settings'] ?? null) ? $this->primarySays['settings'] : [];
        $there = is_array($settings['transfer'] ?? null) ? array_values(array_map(strval(...), $settings['transfer'])) : [];
        $may = self::admits($planned, $this->placement);
        $byHand = self::isByHand($this->primary);
        // By the standards nobody says what stands in a server's settings: that it has the zone shows that they are right.
        $mayThere = $byHand ? $this->serial instanceof Serial : self::admits($there, $this->placement);
        $words = match (true) {
            ! $may => 'it is not in the list of who may copy',
            $mayThere => "$this->primaryName admits it",
            $byHand => "who keeps $this->primaryName has to admit it there",
            default => "planned; $this->primaryName is not told yet, ship to it",
        };

        return [
            'May copy', $may && $mayThere, $words, $may ? $this->primaryName : 'the plan',
            $may && ! $byHand ? self::ship($this->primary) : null,
        ];
    }

    /** @return Step */
    private function knowsItsPrimary(): array
    {
        $byHand = self::isByHand($this->placement);
        $told = $byHand
            ? $this->serial instanceof Serial
            : is_array($this->said) && ($this->said['part'] ?? '') === Part::Secondary->value
                && ($this->said['primary'] ?? '') === $this->primary?->server->endpoint;
        $words = match (true) {
            $told => 'fetches from '.($this->primary->server->name ?? ''),
            is_string($this->said) => $this->said,
            $byHand => 'who keeps it has to make the zone there, as a copy of '.($this->primary->server->endpoint ?? 'its primary'),
            default => 'it is not told where to fetch; ship to it',
        };

        return ['Knows its primary', $told, $words, $this->placement->server->name, $byHand ? null : self::ship($this->placement)];
    }

    /** @return Step */
    private function transfer(): array
    {
        $told = is_array($this->said) && is_string($this->said['trouble'] ?? null) ? $this->said['trouble'] : '';
        $trouble = is_string($this->said) ? $this->said : $told;
        $has = $this->serial instanceof Serial;

        return [
            'First transfer', $has, $has ? "has serial $this->serial" : ($trouble !== '' ? $trouble : 'nothing fetched yet'),
            str_contains($trouble, 'primary') ? $this->primaryName : $this->placement->server->name, null,
        ];
    }

    /** @return Step */
    private function authority(): array
    {
        $words = match (true) {
            $this->serial instanceof Serial => 'its SOA came back with AA',
            is_string($this->serial) => $this->serial,
            default => 'it answers without authority',
        };

        return ['Answers with authority', $this->serial instanceof Serial, $words, $this->placement->server->name, null];
    }

    /** @return Step */
    private function inStep(bool $inStep, string $primarySerial): array
    {
        $words = match (true) {
            ! $this->serial instanceof Serial => 'none yet',
            $inStep => 'the same as the primary',
            default => "it has $this->serial, $this->primaryName has $primarySerial",
        };

        return ['Serial in step', $inStep, $words, $this->placement->server->name, null];
    }

    /** @return Step */
    private function listed(): array
    {
        $planned = Record::query()->where('zone_id', $this->zone->id)->where('owner_key', $this->zone->origin()->sortKey())
            ->where('type', RecordType::NS)->where('target', (string) $this->name->lower())->exists();
        $answered = $this->answers['listed'];
        $words = match (true) {
            ! $planned => 'planned until it answers with authority',
            $answered === false => "$this->owner is in the plan, $this->primaryName does not say it yet",
            $answered === null => $this->owner,
            default => "$this->owner, $this->primaryName says so",
        };

        return [
            'Listed as NS', $planned && $answered !== false, $words, $planned ? $this->primaryName : 'the plan',
            $planned ? self::ship($this->primary) : null,
        ];
    }

    /** @param  list<string>  $list */
    private static function admits(array $list, ZoneServer $placement): bool
    {
        foreach ($list as $entry) {
            if (
                str_starts_with($entry, 'key ')
                    || $placement->server->address !== null && Prefix::tryParse($entry)?->contains($placement->server->address) === true
            ) {
                return true;
            }
        }

        return false;
    }

    private static function isByHand(?ZoneServer $placement): bool
    {
        return $placement?->server->speaks === Speaks::Standard;
    }

    private static function ship(?ZoneServer $placement): ?string
    {
        return $placement === null ? null : at('ship.server', $placement->server_id)."?only=$placement->zone_id";
    }
}
