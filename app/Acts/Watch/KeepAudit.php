<?php

declare(strict_types=1);

namespace App\Acts\Watch;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Watch\Choices;
use App\Models\AtEdit;
use App\Models\Audit;
use App\Models\Person;
use App\Models\Role;
use App\Models\Site;
use App\Queries\AuditTable;
use App\Queries\Facts\Condition;
use App\Queries\Reach;
use HarborPost\Core\Checks\Severity;

/** A rule about the data is laid down or changed, and tried before it is kept. */
final readonly class KeepAudit extends Act
{
    /**
     * @param  array<string, string>  $where
     * @param  array<string, string>  $must
     */
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 120)]
        public string $name,
        #[Field(Kind::Choice, 'Of each', choices: ['subnet', 'address', 'zone', 'scope', 'vlan', 'server', 'device'])]
        public string $kind,
        #[Field(Kind::NewId, 'Id', 'Of a new rule, or of the one that changes')]
        public string $id = '',
        #[Field(Kind::Id, 'Site', 'With all sites in it', of: Site::class)]
        public string $site = '',
        #[Field(Kind::Map, 'Whose', most: 120)]
        public array $where = [],
        #[Field(Kind::Map, 'Must be', most: 120)]
        public array $must = [],
        #[Field(Kind::Choice, 'Severity', choices: ['error', 'warning', 'note'])]
        public string $severity = 'warning',
        #[Field(Kind::Line, 'Why', most: 500)]
        public string $explanation = '',
        #[Field(Kind::Flag, 'Off')]
        public bool $off = false,
        #[Field(Kind::Choice, 'When somebody edits', choices: ['off', 'warn', 'block'])]
        public string $atEdit = 'off',
    ) {
    }

    public function title(): string
    {
        return (Audit::query()->whereKey($this->id)->exists() ? 'Change' : 'Make')." the audit $this->name";
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
        return at('watch.audit', $this->id);
    }

    /** What keeps others from writing is laid down, changed and taken away by planners alone. */
    public static function mayBlock(Ledger $ledger, AtEdit ...$does): void
    {
        if (in_array(AtEdit::Block, $does, true) && $ledger->person?->does(Role::Planner) === false) {
            $ledger->refuse(
                'not-yours-to-block',
                'Only a planner makes, changes or removes a rule that blocks the edits of others',
                'Let it warn, or ask a planner.',
                field: 'atEdit',
            );
        }
    }

    public function apply(Ledger $ledger): void
    {
        $audit = Audit::query()->lockForUpdate()->find($this->id) ?? new Audit(['id' => $this->id]);
        self::mayBlock($ledger, $audit->at_edit, AtEdit::from($this->atEdit));
        if (trim($this->name) === '') {
            $ledger->refuse('no-name', 'An audit needs a name', field: 'name');
        }
        $kind = Choices::kind($ledger, $this->kind);
        if ($this->site !== '' && ! $kind->hasSite()) {
            $ledger->refuse('no-site', ucfirst($kind->plural()).' stand at no site', 'Leave the site open.', field: 'site');
        }
        $must = Choices::read($ledger, $kind, $this->must, 'must');
        $must !== [] ?: $ledger->refuse('nothing-asked', 'Say what each of them must be', field: 'must');
        $stored = static fn (array $all): array => array_map(static fn (Condition $c): array => $c->stored(), $all);
        $audit->fill([
            'name' => trim($this->name), 'kind' => $kind, 'site_id' => $this->site === '' ? null : $this->site,
            'where' => $stored(Choices::read($ledger, $kind, $this->where, 'where')), 'must' => $stored($must),
            'severity' => Severity::tryFrom($this->severity) ?? Severity::Warning,
            'explanation' => $this->explanation, 'active' => ! $this->off, 'at_edit' => AtEdit::from($this->atEdit),
        ]);
        $table = AuditTable::of($audit, Reach::whole());
        [$failing, $all] = [$table->failing()->count(), $table->all()->count()];
        $ledger->passed('tried', number_format($failing).' of '.number_format($all)." {$kind->plural()} fail now");
        foreach ($table->titles($table->failing()->limit(5)) as $title) {
            $ledger->later("Fails now: $title");
        }
        if ($all === 0) {
            $ledger->warn('judges-nothing', 'It judges nothing', 'No such object is there now.', field: 'where');
        }
        $audit->save();
    }
}
