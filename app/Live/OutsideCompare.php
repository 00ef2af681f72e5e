<?php

declare(strict_types=1);

namespace App\Live;

use App\Acts\Directory\SetSetting;
use App\Acts\Engine\Act;
use App\Acts\Engine\Acts;
use App\Acts\Plan\CarvePrefix;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Ship\NoteOutside;
use App\Links\ControllerClient;
use App\Links\Unanswered;
use App\Models\Outside;
use App\Models\PrefixKind;
use App\Queries\OutsideHeld;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Planning\Sides\Held;
use HarborPost\Core\Planning\Sides\Pairing;
use HarborPost\Core\Planning\Sides\State;
use HarborPost\Core\Planning\Sides\TwoSides;

/** Compares a system outside with the plan, and says by which acts its values come in. */
final readonly class OutsideCompare
{
    public function __construct(private Acts $acts)
    {
    }

    public static function client(Outside $outside): ControllerClient
    {
        return new ControllerClient($outside, (float) config('harbor.patience'));
    }

    /**
     * @return list<Pairing>
     *
     * @throws Unanswered
     */
    public function lines(Outside $outside): array
    {
        try {
            if ($outside->under_id !== null && $outside->under === null) {
                throw Unanswered::unasked($outside->name, 'the prefix that it is compared under is gone; a steward chooses another');
            }
            $under = $outside->under?->prefix();
            $there = [];
            foreach (self::client($outside)->all() as $held) {
                $net = Net::tryParse($held->prefix);
                // What lies elsewhere is not compared; what cannot be read may be anywhere.
                if ($under === null || $net === null || $under->contains($net) && ! ($net->equals($under) && $held->groups)) {
                    $there[] = $held;
                }
            }
            $lines = TwoSides::compare(self::held($outside), $there);
        } catch (Unanswered $e) {
            $this->acts->commit(null, [new NoteOutside($outside->id, problem: $e->getMessage())]);
            throw $e;
        }
        $counts = array_count_values(array_map(static fn (Pairing $p): string => $p->state->value, $lines));
        $this->acts->commit(null, [new NoteOutside($outside->id, $counts)]);

        return $lines;
    }

    /**
     * @return list<Held>
     *
     * @throws Unanswered
     */
    private static function held(Outside $outside): array
    {
        try {
            return OutsideHeld::of($outside);
        } catch (\OverflowException $e) {
            throw Unanswered::unasked($outside->name, $e->getMessage());
        }
    }

    /**
     * Acts that take the other side's value in, as far as it can be; {@see self::stays()} names what stays different.
     *
     * @return list<Act>
     */
    public static function takes(Outside $outside, Pairing $line): array
    {
        $there = $line->there;
        if ($line->state === State::MissingHere && $there !== null) {
            $carve = CarvePrefix::fromInput([
                'space' => $outside->space_id, 'prefix' => $there->prefix, 'kind' => ($there->groups
                    ? PrefixKind::Supernet : PrefixKind::Subnet)->value,
                'stage' => 'live', 'name' => $there->values['name'][0] ?? '',
                'gateway' => $there->groups ? '' : $there->values['gateway'][0] ?? '',
            ]);

            return [$carve, ...self::resolvers($carve->id, $there)];
        }
        if ($line->state !== State::Differs || $there === null || $line->here === null) {
            return [];
        }
        $change = array_filter([
            'name' => in_array('name', $line->fields, true) ? $there->values['name'][0] ?? '' : null,
            'gateway' => in_array('gateway', $line->fields, true) && ! $there->groups ? $there->values['gateway'][0] ?? '-' : null,
        ], is_string(...));
        $acts = $change === [] ? [] : [ChangePrefix::fromInput(['prefixes' => [$line->here->id]] + $change)];

        return [...$acts, ...in_array('resolvers', $line->fields, true) ? self::resolvers($line->here->id, $there) : []];
    }

    /**
     * No name servers at all cannot be taken: without a value of its own, a prefix has what settings hand down.
     *
     * @return list<Act>
     */
    private static function resolvers(string $prefix, Held $there): array
    {
        $list = $there->value('resolvers');

        return $list === [] ? [] : [SetSetting::fromInput([
            'layer' => 'prefix', 'object' => $prefix, 'key' => 'resolvers', 'value' => implode(' ', $list),
        ])];
    }

    /** @return list<string> values of a line that differ afterwards all the same, by the keys of {@see Held::VALUES} */
    public static function stays(Pairing $line): array
    {
        return array_values(array_filter($line->fields, static fn (string $field): bool => $field === 'leases'
            || $field === 'resolvers' && $line->there?->value('resolvers') === []
            || $field === 'gateway' && $line->groups()));
    }

    /** What is told to the other side: ours whole, under its id where it has one. Null: there is nothing of ours to tell. */
    public static function tells(Pairing $line): ?Held
    {
        $here = $line->here;
        if ($here === null || ! in_array($line->state, [State::Differs, State::MissingThere], true)) {
            return null;
        }

        return new Held($line->there->id ?? $here->id, $here->prefix, $here->groups, $here->values);
    }

    /** Does what was read back say what was told? */
    public static function fits(Held $told, Held $read): bool
    {
        foreach (array_keys(Held::VALUES) as $key) {
            if ($told->value($key) !== $read->value($key)) {
                return false;
            }
        }

        return $told->prefix === $read->prefix && $told->groups === $read->groups;
    }
}
