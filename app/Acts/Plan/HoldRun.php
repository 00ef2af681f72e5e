<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\HeldRun;
use App\Models\Host;
use App\Models\Prefix;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\NotUnderstood;

/** A stretch of a subnet is held: nobody is given an address there without asking for it by number. */
final readonly class HoldRun extends Act
{
    use InSubnet;

    public function __construct(
        #[Field(Kind::Id, 'Prefix', of: Prefix::class)]
        public string $prefix,
        #[Field(Kind::Line, 'Range', 'First-last, a prefix or one address', most: 100)]
        public string $range,
        #[Field(Kind::Line, 'Held for', 'What it is held for', most: 255)]
        public string $why,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Line, 'Until', 'The last day, as 2026-12-31; blank holds without an end', most: 20)]
        public string $until = '',
    ) {
    }

    public function title(): string
    {
        return "Hold $this->range";
    }

    public function apply(Ledger $ledger): void
    {
        $subnet = $this->subnet($ledger);
        try {
            $range = AddressRange::parse(trim($this->range));
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-range', $e->getMessage(), field: 'range');
        }
        if (! $subnet->prefix()->range()->contains($range)) {
            $ledger->refuse('range-outside', "$range is not inside {$subnet->prefix()}", field: 'range');
        }
        if (trim($this->why) === '') {
            $ledger->refuse('no-reason', 'What is it held for?', 'The next one who looks wants to know.', null, 'why');
        }
        $until = $this->until === '' ? null : \DateTimeImmutable::createFromFormat('!Y-m-d', $this->until);
        if ($until === false || $until !== null && $until->format('Y-m-d') !== $this->until) {
            $ledger->refuse('bad-date', "\"$this->until\" is no date", 'Write it as 2026-12-31.', null, 'until');
        }
        if ($until !== null && $until->format('Y-m-d') < $ledger->at->format('Y-m-d')) {
            $ledger->refuse('past-date', "$this->until is over", 'The run would not be held for a day.', null, 'until');
        }
        Guard::own("runs:$subnet->id");
        foreach (HeldRun::query()->where('prefix_id', $subnet->id)->get() as $other) {
            if ($other->range()->overlaps($range)) {
                $ledger->refuse('run-overlap', "$range overlaps the held run {$other->line()}", field: 'range');
            }
        }
        $hosts = Host::query()->where('prefix_id', $subnet->id)
            ->whereBetween('address', [$range->first->bytes, $range->last->bytes])->count();
        $hosts === 0 || $ledger->warn('hosts-inside', "$hosts hosts stand in $range", 'They stay.');
        (
            new HeldRun([
                'id' => $this->id ?: null, 'prefix_id' => $subnet->id, 'first' => $range->first, 'last' => $range->last,
                'reason' => trim($this->why), 'until' => $until?->format('Y-m-d'),
            ])
        )->save();
    }
}
