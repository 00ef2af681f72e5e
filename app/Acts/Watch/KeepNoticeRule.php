<?php

declare(strict_types=1);

namespace App\Acts\Watch;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\NoticeKind;
use App\Models\NoticeRule;
use App\Models\Person;
use App\Queries\Conditions;
use HarborPost\Core\Checks\Severity;

/** From when on people are told of one kind of trouble, and who. */
final readonly class KeepNoticeRule extends Act
{
    /**
     * @param  list<string>  $people
     * @param  list<string>  $further
     */
    public function __construct(
        #[Field(
            Kind::Choice,
            'Told of',
            choices: ['silent', 'leases', 'pair', 'drift', 'behind', 'signature', 'subnet', 'scope', 'audit', 'draft', 'due', 'hook',
                'report', 'right', 'figure'],
        )]
        public string $kind,
        #[Field(Kind::Number, 'From', 'Per cent, hours or objects, as the kind counts', most: 100_000)]
        public int $threshold = 1,
        #[Field(Kind::Number, 'When it holds for minutes', most: 100_000)]
        public int $minutes = 0,
        #[Field(Kind::Choice, 'Level', choices: ['error', 'warning', 'note'])]
        public string $level = 'warning',
        #[Field(Kind::Ids, 'To', 'Everybody who works on everything when none is chosen', of: Person::class)]
        public array $people = [],
        #[Field(Kind::Flag, 'Off')]
        public bool $off = false,
        #[Field(Kind::Number, 'When nobody looks after it for minutes', 'Nobody else is told where it is 0', most: 100_000)]
        public int $after = 0,
        #[Field(Kind::Ids, 'Then also to', of: Person::class)]
        public array $further = [],
    ) {
    }

    public function title(): string
    {
        return 'Change when one is told: '.lcfirst(NoticeKind::tryFrom($this->kind)?->title() ?? 'of what');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public static function governed(): bool
    {
        return false;
    }

    public function landing(): string
    {
        return at('watch.notices');
    }

    public function apply(Ledger $ledger): void
    {
        $kind = NoticeKind::tryFrom($this->kind) ?? $ledger->refuse(
            'no-such-kind',
            "\"$this->kind\" is nothing that one is told of",
            field: 'kind',
        );
        if ($kind->unit() === '%' && ($this->threshold < 1 || $this->threshold > 100)) {
            $ledger->refuse('bad-threshold', 'A share lies between 1 and 100 %', field: 'threshold');
        }
        if (($this->after > 0) !== ($this->further !== [])) {
            $ledger->refuse('half-raised', 'After how many minutes, and to whom, belong together', 'Give both, or neither.',
                field: $this->after > 0 ? 'further' : 'after');
        }
        foreach (Person::query()->whereKey([...$this->people, ...$this->further])->orderBy('name')->get() as $person) {
            if (! $person->operatesAll() || ! $person->active) {
                $ledger->refuse(
                    'told-nothing',
                    "$person->name is told of no notices",
                    'They are for those who work on everything.',
                    field: in_array($person->id, $this->people, true) ? 'people' : 'further',
                );
            }
        }
        $rule = NoticeRule::of($kind);
        $rule->fill([
            'threshold' => $this->threshold, 'minutes' => $this->minutes, 'level' => Severity::tryFrom($this->level) ?? $kind->usualLevel(),
            'people' => array_values(array_unique($this->people)), 'active' => ! $this->off, 'after' => $this->after,
            'further' => array_values(array_unique($this->further)),
        ]);
        $now = 0;
        foreach ($this->off ? [] : Conditions::of($rule) as $trouble) {
            $now++;
        }
        $ledger->passed(
            'now',
            $this->off ? 'Nobody is told of it any more' : ($now === 1 ? 'It holds for 1 object now' : "It holds for $now objects now"),
        );
        $now > 50 ? $ledger->warn(
            'many',
            "$now notices come of it now",
            'Raise the threshold, or mend the cause first.',
            field: 'threshold',
        ) : null;
        $rule->save();
    }
}
