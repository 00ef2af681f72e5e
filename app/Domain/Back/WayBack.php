<?php

declare(strict_types=1);

namespace App\Domain\Back;

use App\Acts\Engine\Ledger;
use App\Models\Power;
use App\Models\Role;
use App\Queries\RoleLimits;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/**
 * Takes back what acts wrote, row by row from the last to the first, by the rules of each kind of object: what is there now has to be what
 * was written then. What somebody changed since, or what hangs on it since, is refused by name.
 */
final class WayBack
{
    /** Rows that go back in one act. */
    public const MOST = 5000;

    /** Kinds whose rows hold nothing but themselves. */
    private const PLAIN = [
        'held run', 'VLAN', 'device', 'tenant', 'layer-2 domain', 'own field', 'setting', 'class', 'option', 'reservation', 'range',
        'exclusion', 'delegation', 'scope', 'right on names', 'shipping window', 'freeze', 'rule of agreement', 'notice rule', 'audit',
        'scope on a server', 'team', 'member of a team', 'zone', 'zone on a server', 'site', 'space', 'view', 'signing policy',
        'intent', 'port profile', 'port', 'threshold',
    ];

    /** What a change leaves behind beside the plan: nothing to take back. */
    private const APART = ['draft', 'edit', 'decision', 'remark', 'hand on a draft', 'shipment', 'scan', 'notice'];

    /** Kinds that planners write: who may not make or change them does not do so by way of what somebody else did. */
    private const PLANNED = [
        'prefix', 'space', 'site', 'tenant', 'VLAN', 'layer-2 domain', 'own field', 'setting', 'intent', 'port profile',
        'port',
    ];

    /** What one needs to write a kind of object: who lost that does not do it by way of what somebody else did. */
    private const POWERS = [
        'address' => Power::Hosts, 'held run' => Power::Hosts, 'prefix' => Power::Space, 'record' => Power::Names,
        'zone' => Power::NameService, 'zone on a server' => Power::NameService, 'view' => Power::NameService,
        'right on names' => Power::NameService, 'signing policy' => Power::Keys, 'class' => Power::Leases, 'option' => Power::Leases,
        'reservation' => Power::Leases, 'range' => Power::Leases, 'exclusion' => Power::Leases, 'delegation' => Power::Leases,
        'scope' => Power::Leases, 'scope on a server' => Power::Leases, 'shipping window' => Power::Ship, 'freeze' => Power::Ship,
        'notice rule' => Power::Watch, 'audit' => Power::Watch, 'threshold' => Power::Watch, 'rule of agreement' => Power::People,
        'team' => Power::People, 'member of a team' => Power::People,
    ];

    /** @var array<string, true> scopes whose ranges are looked at when all is back */
    private array $scopes = [];

    private function __construct(private readonly Ledger $ledger)
    {
    }

    /** Is there a way back for rows of this kind? */
    public static function knows(string $noun): bool
    {
        return in_array($noun, ['prefix', 'address', 'record', ...self::PLAIN], true);
    }

    /**
     * @param  list<string>  $acts  ids
     * @return Collection<int, PastRow> what they wrote of the plan, the last first
     */
    public static function rows(array $acts): Collection
    {
        return DB::table('history')->whereIn('act_id', $acts)->whereNotIn('object_type', self::APART)->orderByDesc('id')
            ->limit(self::MOST + 1)->get()->map(PastRow::of(...));
    }

    /**
     * @param  list<string>  $acts
     * @param  list<string>  $leave  objects that stay as they are, "noun:id"
     */
    public static function take(Ledger $ledger, array $acts, array $leave): void
    {
        $rows = self::rows($acts);
        if ($rows->isEmpty()) {
            $ledger->refuse('nothing-back', 'Nothing of that change is to be taken back', 'It wrote nothing of the plan.');
        }
        if ($rows->count() > self::MOST) {
            $ledger->refuse('too-much', 'The change wrote more than '.number_format(self::MOST).' rows', 'It is taken back in parts.');
        }
        $back = new self($ledger);
        $left = 0;
        foreach ($rows as $row) {
            if (in_array($row->object(), $leave, true)) {
                $left++;
            } else {
                $back->one($row);
            }
        }
        if ($left === $rows->count()) {
            $ledger->refuse('nothing-back', 'Nothing would be taken back', 'All of it was changed since.');
        }
        foreach (array_keys($back->scopes) as $scope) {
            BackPlain::checkRanges($ledger, (string) $scope);
        }
    }

    private function one(PastRow $row): void
    {
        // Told to whoever asks for the rest: this object stands in the way.
        $this->ledger->made['stands'] = $row->object();
        $this->mayWrite($row);
        match (true) {
            $row->noun === 'record' => BackRecord::take($this->ledger, $row),
            $row->noun === 'address' => BackHost::take($this->ledger, $row),
            $row->noun === 'prefix' => BackPrefix::take($this->ledger, $row),
            in_array($row->noun, self::PLAIN, true) => BackPlain::take($this->ledger, $row),
            default => $this->ledger->refuse(
                'no-way-back',
                ucfirst($row->called()).' is not taken back from here',
                $row->after === null || $row->before === null
                    ? 'It is made and removed on its own page.'
                    : 'It is changed on its own page.',
            ),
        };
        if (in_array($row->noun, ['range', 'exclusion', 'delegation'], true)) {
            $scope = $row->before['scope_id'] ?? $row->after['scope_id'] ?? null;
            is_string($scope) ? $this->scopes[$scope] = true : null;
        }
        unset($this->ledger->made['stands']);
    }

    private function mayWrite(PastRow $row): void
    {
        if ($this->ledger->person === null) {
            return;
        }
        $person = RoleLimits::narrow($this->ledger->person, self::POWERS[$row->noun] ?? Power::Places);
        $planned = in_array($row->noun, self::PLANNED, true) || $row->noun === 'zone' && $row->before === null;
        if ($planned && ! $person->does(Role::Planner) || $person !== $this->ledger->person && ! $person->operatesAll()) {
            $this->ledger->refuse(
                'not-allowed',
                'Not available to you: '.$row->called().($planned ? ' is a planner\'s' : ' is not for your role here'),
                'Your roles do not include this. A steward can change that.',
            );
        }
    }

    /** Somebody changed it: what is there is not what was written then. */
    public static function refuseChanged(Ledger $ledger, PastRow $row, string $why): never
    {
        $ledger->refuse('changed-since', ucfirst($row->called()).' was changed since', $why);
    }

    /**
     * Is it as it was already? What goes together, as the TTL of a set, went back with another row.
     *
     * @param  array<string, mixed>  $now  as history tells them
     */
    public static function isBack(PastRow $row, array $now): bool
    {
        if ($row->before === null || $row->after === null) {
            return false;
        }
        foreach ($row->before as $column => $value) {
            if (PastRow::text($now[$column] ?? null) !== PastRow::text($value)) {
                return false;
            }
        }

        return true;
    }

    /**
     * The columns that were written, as they are now.
     *
     * @param  array<string, mixed>  $now  as history tells them
     */
    public static function same(PastRow $row, array $now): ?string
    {
        foreach ($row->after ?? [] as $column => $value) {
            if (PastRow::text($now[$column] ?? null) !== PastRow::text($value)) {
                return (string) $column;
            }
        }

        return null;
    }
}
