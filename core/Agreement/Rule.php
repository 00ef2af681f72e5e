<?php

declare(strict_types=1);

namespace HarborPost\Core\Agreement;

/** When which number of others has to agree, as a sentence made of choices. */
final readonly class Rule
{
    public function __construct(
        public RuleKind $kind,
        /** a number, a noun, a site, or blank */
        public string $value,
        /** how people call the value */
        public string $called,
        public int $needs,
        /** the team that is asked; null: any approver */
        public ?string $team = null,
        /** how people call it */
        public string $teamCalled = '',
    ) {
    }

    public function holds(ChangeFacts $facts): bool
    {
        return match ($this->kind) {
            RuleKind::Always => $facts->rows > 0,
            RuleKind::Rows => $facts->rows > (int) $this->value,
            RuleKind::Removes => ($facts->removed[$this->value] ?? 0) > 0,
            RuleKind::Touches => ($facts->touched[$this->value] ?? 0) > 0,
            RuleKind::Site => in_array($this->value, $facts->sites, true),
            RuleKind::Warning => $facts->warned,
        };
    }

    /** Whom it asks: "one approver", "2 of Pier planners". */
    public function asks(): string
    {
        return match (true) {
            $this->team !== null => ($this->needs === 1 ? 'one' : (string) $this->needs)." of $this->teamCalled",
            $this->needs === 1 => 'one approver',
            default => "$this->needs approvers",
        };
    }

    public function sentence(): string
    {
        $label = in_array($this->kind, [RuleKind::Removes, RuleKind::Touches], true)
            ? substr($this->kind->label(), 0, -1).(preg_match('/\A[aeiou]/i', $this->called) === 1 ? 'an' : 'a')
            : $this->kind->label();
        $what = trim("$label $this->called");

        return "A change that $what needs the agreement of {$this->asks()}, not of its author.";
    }

    /**
     * @param  list<self>  $rules
     * @return list<self> those that hold, the one that needs most first
     */
    public static function thatHold(array $rules, ChangeFacts $facts): array
    {
        $hold = array_values(array_filter($rules, static fn (self $r): bool => $r->holds($facts)));
        usort($hold, static fn (self $a, self $b): int => $b->needs <=> $a->needs);

        return $hold;
    }
}
