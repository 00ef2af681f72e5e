<?php

declare(strict_types=1);

namespace App\Acts\Watch;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Audit;
use App\Models\Person;
use Illuminate\Support\Facades\DB;

/** What a rule found may stay so until a day, for a reason; the rule itself notes it in history. */
final readonly class WaiveFinding extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Audit', of: Audit::class)]
        public string $audit,
        #[Field(Kind::Line, 'Object', most: 26)]
        public string $object,
        #[Field(Kind::Line, 'Until', most: 10, example: '2027-01-31')]
        public string $until,
        #[Field(Kind::Line, 'Why', most: 250)]
        public string $why,
    ) {
    }

    public function title(): string
    {
        return 'Leave a finding of '.(Audit::query()->find($this->audit)->name ?? 'an audit')." until $this->until";
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
        return at('watch.audit', $this->audit);
    }

    public function apply(Ledger $ledger): void
    {
        $audit = Audit::query()->lockForUpdate()->find($this->audit) ?? $ledger->refuse('gone', 'The audit is not there any more');
        $finding = DB::table('audit_findings')->where('audit_id', $audit->id)->where('object_id', $this->object)->first()
            ?? $ledger->refuse('gone', 'It is found no more');
        $day = \DateTimeImmutable::createFromFormat('!Y-m-d', $this->until);
        if ($day === false || $day->format('Y-m-d') !== $this->until || $day <= $ledger->at) {
            $ledger->refuse('bad-day', "\"$this->until\" is no day to come", 'Write it as 2027-01-31.', field: 'until');
        }
        if (trim($this->why) === '') {
            $ledger->refuse('no-reason', 'Say why it may stay so', field: 'why');
        }
        DB::table('audit_findings')->where('id', $finding->id)->update(['waived_until' => $this->until, 'reason' => $this->why]);
        // The rule is written with its finding, so that history tells who left it and why.
        $audit->forceFill(['failing' => max(0, $audit->failing - ($finding->waived_until === null ? 1 : 0))])->save();
        $ledger->later(\Illuminate\Support\Str::limit("$finding->title is not counted until $this->until: $this->why", 200));
    }
}
