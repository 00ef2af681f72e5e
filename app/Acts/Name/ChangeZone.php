<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\KeptByHand;
use App\Domain\Name\Records;
use App\Domain\Name\ZoneApex;
use App\Models\Person;
use App\Models\Record;
use App\Models\Role;
use App\Models\Zone;
use App\Models\ZoneServer;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Ttl;

/** The timers, the default TTL or the silence of a zone change; servers see it with the next shipment. */
final readonly class ChangeZone extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone,
        #[Field(Kind::Line, 'Primary server', 'The name server that the SOA names (MNAME)', most: 255)]
        public ?string $primary = null,
        #[Field(Kind::Line, 'Mailbox', 'Who answers for the zone (RNAME), as a mail address or a name', most: 255)]
        public ?string $mailbox = null,
        #[Field(Kind::Line, 'Refresh', most: 30)]
        public ?string $refresh = null,
        #[Field(Kind::Line, 'Retry', most: 30)]
        public ?string $retry = null,
        #[Field(Kind::Line, 'Expire', most: 30)]
        public ?string $expire = null,
        #[Field(Kind::Line, 'Negative TTL', most: 30)]
        public ?string $negativeTtl = null,
        #[Field(Kind::Line, 'Default TTL', most: 30)]
        public ?string $defaultTtl = null,
        #[Field(Kind::Choice, 'Silenced', choices: ['0', '1'])]
        public ?string $silenced = null,
        #[Field(Kind::Line, 'Description', most: 255)]
        public ?string $description = null,
    ) {
    }

    public function title(): string
    {
        return 'Change the zone '.(\App\Models\Zone::query()->find($this->zone)?->title() ?? '');
    }

    public static function may(Person $person): bool
    {
        return ($person->does(Role::Planner) || $person->does(Role::Operator)) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('name.zone', $this->zone);
    }

    public function apply(Ledger $ledger): void
    {
        $zone = AddRecord::zone($ledger, $this->zone);
        foreach (
            [
                'refresh' => $this->refresh, 'retry' => $this->retry, 'expire' => $this->expire, 'negative_ttl' => $this->negativeTtl,
                'default_ttl' => $this->defaultTtl,
            ] as $column => $value
        ) {
            if ($value === null) {
                continue;
            }
            try {
                $zone->$column = Ttl::parse(trim($value))->seconds;
            } catch (Malformed $e) {
                $ledger->refuse(
                    'bad-timer',
                    $e->getMessage(),
                    standard: $e->standard,
                    field: lcfirst(str_replace('_', '', ucwords($column, '_'))),
                );
            }
        }
        if ($this->primary !== null) {
            $zone->primary_server = self::name($ledger, $this->primary, $zone, 'primary');
        }
        if ($this->mailbox !== null) {
            $zone->mailbox = (string) ZoneApex::mailboxName($ledger, $this->mailbox, $zone->origin());
        }
        $zone->silenced = $this->silenced === null ? $zone->silenced : $this->silenced === '1';
        $zone->description = $this->description ?? $zone->description;
        ZoneApex::timers($ledger, $zone);
        if ($zone->isDirty('silenced') && $zone->silenced) {
            $ledger->warn('silenced', 'No server answers for a silenced zone', 'Names in it stop resolving when this is shipped.');
            KeptByHand::sayStays($ledger, $zone);
        }
        if ($zone->isDirty('default_ttl')) {
            $ledger->warn('default-ttl', 'Every record that inherits its TTL changes', 'The next shipment compares the whole zone.');
        }
        if ($zone->isDirty('default_ttl') || $zone->isDirty('silenced')) {
            // The journal does not name the records that inherit, so the next shipment compares everything.
            ZoneServer::query()->where('zone_id', $zone->id)->update(['shipped_serial' => null]);
        }
        if ($zone->isDirty(['primary_server', 'mailbox', 'refresh', 'retry', 'expire', 'negative_ttl', 'default_ttl'])) {
            // Not a record of its own, but the serial has to rise for it.
            Records::mark($zone);
        }
        $zone->save();
    }

    private static function name(Ledger $ledger, string $text, Zone $zone, string $field): string
    {
        try {
            $name = Name::parse($text, $zone->origin())->lower();
        } catch (Malformed $e) {
            $ledger->refuse('bad-name', $e->getMessage(), standard: $e->standard, field: $field);
        }
        if (
            Record::query()->where('zone_id', $zone->id)->where('owner', $zone->name)->where('type', RecordType::NS)
                ->where('target', (string) $name)->doesntExist()
        ) {
            $ledger->warn(
                'primary-no-ns',
                rtrim((string) $name, '.').' is no name server of the zone',
                'The SOA names the primary; that it is not listed is right for a hidden one only.',
                'RFC 1996 §2.1',
                $field,
            );
        }

        return (string) $name;
    }
}
