<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\ApprovalRule;
use HarborPost\Core\Agreement\ChangeFacts;
use HarborPost\Core\Agreement\Rule;
use HarborPost\Core\Agreement\RuleKind;
use Illuminate\Support\Facades\DB;

/** Which of the changes of the last weeks a rule would have stopped, from the history. */
final class RuleTrial
{
    public const DAYS = 30;

    /**
     * @param  list<string>  $ungoverned  acts that rules do not ask about
     * @return array{stopped: int, of: int}|null null for a rule that history cannot tell: places and warnings are not kept in it
     */
    public static function of(Rule $rule, array $ungoverned): ?array
    {
        if (in_array($rule->kind, [RuleKind::Site, RuleKind::Warning], true)) {
            return null;
        }
        $acts = DB::table('history')->where('at', '>', now()->subDays(self::DAYS))->whereNotNull('person_id')
            ->whereNotIn('object_type', ApprovalRule::APART)->whereNotIn('action', $ungoverned)->groupBy('act_id')
            ->selectRaw(
                'act_id, COUNT(*) AS n, SUM(object_type = ?) AS touched, SUM(object_type = ? AND after IS NULL) AS removed',
                [$rule->value, $rule->value],
            )->get();
        $stopped = 0;
        foreach ($acts as $act) {
            $facts = new ChangeFacts(
                (int) $act->n,
                [$rule->value => (int) $act->touched],
                [$rule->value => (int) $act->removed],
                [],
                false,
            );
            $stopped += $rule->holds($facts) ? 1 : 0;
        }

        return ['stopped' => $stopped, 'of' => $acts->count()];
    }
}
