<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

/**
 * A zone goes over to another algorithm (RFC 6781 §4.1.4, the conservative way). There are validators that want a signature of each
 * algorithm that stands among the keys, so the signatures of the new one come before its keys, the parent names it when every cache has the
 * keys, and those of the old one leave before its signatures do. Keys of one algorithm are shown and withdrawn together.
 */
final readonly class AlgorithmRoll
{
    /**
     * @param  list<KeyTimes>  $old
     * @param  list<KeyTimes>  $new
     */
    private function __construct(private array $old, private array $new)
    {
    }

    /**
     * @param  list<KeyTimes>  $keys  in the order in which they were made
     * @return ?self null when all keys of the zone are of one algorithm
     */
    public static function of(array $keys): ?self
    {
        $there = array_values(array_filter($keys, static fn (KeyTimes $k): bool => $k->isThere()));
        $last = end($there);
        if ($last === false) {
            return null;
        }
        $old = array_values(array_filter($there, static fn (KeyTimes $k): bool => $k->algorithm !== $last->algorithm));

        return $old === [] ? null : new self($old, array_values(array_filter(
            $there,
            static fn (KeyTimes $k): bool => $k->algorithm === $last->algorithm,
        )));
    }

    /** Is a key of the old algorithm one that the parent names no more? */
    public function isReplaced(KeyTimes $key): bool
    {
        return $this->entry()?->dsSeen !== null && $key->role->isEntry() && in_array($key, $this->old, false);
    }

    /** @return list<KeyStep> */
    public function steps(KeySchedule $times, bool $parent): array
    {
        $signs = array_map(
            static fn (KeyTimes $k): ?int => $k->active,
            array_values(array_filter($this->new, static fn (KeyTimes $k): bool => $k->role->signsZone())),
        );
        if ($signs === [] || in_array(null, $signs, true)) {
            return [];
        }
        $hidden = array_filter($this->new, static fn (KeyTimes $k): bool => $k->hidden);
        if ($hidden !== []) {
            $shown = $times->signaturesGone(max($signs));

            return array_values(array_map(static fn (KeyTimes $k): KeyStep => new KeyStep($k->id, KeyAct::Show, $shown), $hidden));
        }

        return [...$this->naming($times, $parent), ...$this->leaving($times)];
    }

    /** @return list<KeyStep> */
    private function naming(KeySchedule $times, bool $parent): array
    {
        $entry = $this->entry();

        return match (true) {
            ! $parent || $entry === null || $entry->dsSeen !== null => [],
            $entry->dsAsked === null => [new KeyStep($entry->id, KeyAct::AskDs, $times->mayBeNamed($entry))],
            default => [new KeyStep($entry->id, KeyAct::SeeDs, null)],
        };
    }

    /** @return list<KeyStep> */
    private function leaving(KeySchedule $times): array
    {
        $named = array_filter($this->old, static fn (KeyTimes $k): bool => $k->dsAsked !== null) !== [];
        $seen = $this->entry()?->dsSeen;
        $ready = max([0, ...array_map($times->ready(...), $this->new)]);
        $out = match (true) {
            ! $named => $ready,
            $seen === null => null,
            default => max($ready, $times->dsGone($seen)),
        };

        return array_map(static fn (KeyTimes $k): KeyStep => $k->withdrawn === null
            ? new KeyStep($k->id, KeyAct::Withdraw, $out)
            : new KeyStep($k->id, KeyAct::Remove, $times->keysGone($k->withdrawn)), $this->old);
    }

    private function entry(): ?KeyTimes
    {
        $entries = array_filter($this->new, static fn (KeyTimes $k): bool => $k->role->isEntry());

        return end($entries) ?: null;
    }
}
