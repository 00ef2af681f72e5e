<?php

declare(strict_types=1);

namespace App\Acts\Scan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Plan\ScanSpace;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\RunState;
use App\Models\Scan;
use App\Models\ScanSchedule;
use App\Models\Space;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\NotUnderstood;

/** A scan of chosen subnets is set to run, now or on a schedule. */
final readonly class StartScan extends Act
{
    /**
     * @param  list<string>  $prefixes
     * @param  list<string>  $leftOut  ranges
     */
    public function __construct(
        #[Field(Kind::Id, 'Space', of: Space::class)]
        public string $space,
        #[Field(Kind::Ids, 'Subnets', of: Prefix::class)]
        public array $prefixes,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Texts, 'Left out', most: 100)]
        public array $leftOut = [],
        #[Field(Kind::Choice, 'Every', 'Blank runs once; day or week keeps a schedule instead', choices: ['day', 'week'])]
        public string $every = '',
        #[Field(Kind::Number, 'Hour', most: 23)]
        public int $hour = 3,
        #[Field(Kind::Line, 'Schedule', most: 26)]
        public string $schedule = '',
    ) {
    }

    public function title(): string
    {
        return 'Scan '.count($this->prefixes).(count($this->prefixes) === 1 ? ' subnet' : ' subnets');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return $this->every === '' ? at('plan.scan', $this->id) : at('plan.space.scans', $this->space);
    }

    public function apply(Ledger $ledger): void
    {
        $prefixes = Prefix::query()->whereIn('id', $this->prefixes)->where('kind', PrefixKind::Subnet)->where('space_id', $this->space)
            ->get();
        if ($prefixes->isEmpty() || $prefixes->count() !== count(array_unique($this->prefixes))) {
            $ledger->refuse(
                'no-subnets',
                'Choose subnets of this space',
                'Hosts live in subnets; supernets and pools are not scanned.',
                null,
                'prefixes',
            );
        }
        try {
            array_map(AddressRange::parse(...), $this->leftOut);
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-range', $e->getMessage(), 'Runs are left out as first-last, a prefix or an address.', null, 'leftOut');
        }
        $total = array_sum(array_map(fn (Prefix $p): int => ScanSpace::count($p, $this->leftOut), $prefixes->all()));
        if ($total > ScanSpace::MOST) {
            $ledger->refuse(
                'too-many',
                number_format($total).' addresses are too many for one scan',
                'At most '.number_format(ScanSpace::MOST).'.',
                null,
                'prefixes',
            );
        }
        if ($this->every !== '') {
            if (! in_array($this->every, ['day', 'week'], true) || $this->hour < 0 || $this->hour > 23) {
                $ledger->refuse('bad-schedule', 'Every day or every week, at an hour from 0 to 23', field: 'hour');
            }
            (
                new ScanSchedule([
                    'id' => $this->id ?: null, 'space_id' => $this->space, 'prefixes' => $prefixes->modelKeys(),
                    'left_out' => $this->leftOut, 'every' => $this->every, 'hour' => $this->hour, 'active' => true,
                ])
            )->save();

            return;
        }
        if (Scan::query()->whereIn('state', RunState::RUNS)->exists()) {
            $ledger->refuse(
                'scan-runs',
                'A scan is running',
                'One at a time, so that the network is not flooded. Wait for it, or cancel it.',
                null,
                null,
                at('plan.space.scans', $this->space),
            );
        }
        (
            new Scan([
                'id' => $this->id ?: null, 'space_id' => $this->space,
                'prefixes' => $prefixes->sortBy(fn (Prefix $p): string => $p->first->bytes)->modelKeys(), 'left_out' => $this->leftOut,
                'state' => RunState::Waiting, 'total' => $total, 'person_id' => $ledger->person?->id,
                'schedule_id' => $this->schedule ?: null,
            ])
        )->save();
    }
}
