<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Registry;
use App\Models\ApprovalRule;
use App\Models\Nouns;
use App\Models\Person;
use App\Models\Role;
use App\Models\Site;
use App\Models\Team;
use App\Queries\RuleTrial;
use HarborPost\Core\Agreement\RuleKind;

/** When others have to agree to a change is laid down, as a sentence of choices. */
final readonly class MakeRule extends Act
{
    public function __construct(
        #[Field(Kind::Choice, 'A change that', choices: ['always', 'rows', 'removes', 'touches', 'site', 'warning'])]
        public string $kind,
        #[Field(Kind::Number, 'Approvers', most: 9, least: 1)]
        public int $needs = 1,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Number, 'Rows', most: 1_000_000)]
        public int $rows = 50,
        #[Field(Kind::Line, 'Kind of object', most: 40)]
        public string $noun = '',
        #[Field(Kind::Id, 'Site', of: Site::class)]
        public string $site = '',
        #[Field(Kind::Id, 'Of the team', 'Any approver when none is chosen', of: Team::class)]
        public string $team = '',
    ) {
    }

    public function title(): string
    {
        return 'Make a rule of agreement';
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Steward) && ! $person->isBound();
    }

    public static function governed(): bool
    {
        return false;
    }

    public function landing(): string
    {
        return at('ship.rules');
    }

    public function apply(Ledger $ledger): void
    {
        $kind = RuleKind::tryFrom($this->kind) ?? $ledger->refuse('bad-rule', 'Choose what the rule is about', field: 'kind');
        $value = match ($kind) {
            RuleKind::Rows => (string) $this->rows,
            RuleKind::Removes, RuleKind::Touches => Nouns::classOf($this->noun) !== null
                ? $this->noun
                : $ledger->refuse('bad-rule', 'Choose a kind of object', field: 'noun'),
            RuleKind::Site => $this->site !== '' ? $this->site : $ledger->refuse('bad-rule', 'Choose a site', field: 'site'),
            default => '',
        };
        $rule = new ApprovalRule(['id' => $this->id, 'kind' => $kind->value, 'value' => $value, 'needs' => $this->needs, 'active' => true,
            'team_id' => $this->team === '' ? null : $this->team]);
        $rule->save();
        $trial = RuleTrial::of($rule->rule(), Registry::ungoverned());
        $ledger->later(
            $trial === null
                ? 'How many changes it would have stopped is not told by history'
                : 'Of '.number_format($trial['of']).' changes of the last '.RuleTrial::DAYS.' days it would have stopped '
                    .number_format($trial['stopped']),
        );
        KeepTeam::sayFew($ledger, $rule);
    }
}
