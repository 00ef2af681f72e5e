<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Acts;
use App\Acts\Engine\BadInput;
use App\Models\Draft;
use App\Models\DraftState;
use Carbon\CarbonImmutable;

/**
 * Commits drafts whose time has come: as they were shown, with the rights that their authors have then, and with the agreement that rules
 * ask for then. What does not hold is not committed, and says so; of two that run at once one finds the draft ended.
 */
final readonly class DueDrafts
{
    /** Minutes after its time that a draft is still committed: later, nobody counts on it any more. */
    private const GRACE = 30;

    public function __construct(private Acts $acts)
    {
    }

    /** @return list<string> what became of which draft */
    public function run(): array
    {
        $said = [];
        $now = CarbonImmutable::now();
        $due = Draft::query()->with(['edits', 'person'])->where('state', DraftState::Submitted)->where('due_at', '<=', $now->utc())
            ->where('due_problem', '')->orderBy('due_at')->orderBy('id')->get();
        foreach ($due as $draft) {
            $why = $draft->due_at !== null && $draft->due_at->addMinutes(self::GRACE) < $now
                ? 'Its time was over for more than '.self::GRACE.' minutes before the clock of the application ran again.'
                : $this->commit($draft);
            if ($why !== null && Draft::query()->whereKey($draft->id)->where('state', DraftState::Submitted)->doesntExist()) {
                // Another run was first, or somebody took it back at this moment: nothing was missed.
                continue;
            }
            if ($why !== null) {
                $this->acts->commit(null, [new MissTime($draft->id, (string) $draft->due_at?->format('Y-m-d H:i:s'), $why)]);
            }
            $said[] = $draft->line().': '.($why === null ? 'committed' : "not committed. $why");
        }

        return $said;
    }

    /** @return ?string why not */
    private function commit(Draft $draft): ?string
    {
        $person = $draft->person;
        if (! $person->active) {
            return "$person->name may not sign in any more.";
        }
        $this->acts->via = 'at its time';
        try {
            $outcome = $this->acts->commit(
                $person,
                [...Drafts::acts($draft), new EndDraft($draft->id, $draft->digest())],
                Drafts::expects($draft),
                $draft->due_reason === '' ? null : $draft->due_reason,
                asShown: true,
                shown: (string) $draft->due_digest,
            );
        } catch (BadInput $e) {
            return $e->getMessage();
        } catch (\Throwable $e) {
            report($e);

            return 'It failed; the log of the application says why.';
        } finally {
            $this->acts->via = null;
        }

        return $outcome->blocked() ? rtrim($outcome->why(), '.').'.' : null;
    }
}
