<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\Scopes;
use App\Models\ClientClass;
use App\Models\Person;
use App\Models\Scope;
use App\Models\ScopeRange;

/** A range of a scope is kept for a class of clients, closed to it, or open to all again. */
final readonly class KeepRange extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Scope', of: Scope::class)]
        public string $scope,
        #[Field(Kind::Id, 'Range', of: ScopeRange::class)]
        public string $range,
        #[Field(Kind::Choice, 'For', choices: ['all', 'only', 'not'])]
        public string $for = 'all',
        #[Field(Kind::Id, 'Class', of: ClientClass::class)]
        public string $class = '',
    ) {
    }

    public function title(): string
    {
        return 'Change for whom a range is';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease.scope', $this->scope);
    }

    public function apply(Ledger $ledger): void
    {
        $scope = Scope::query()->with('prefix')->find($this->scope) ?? $ledger->refuse('gone', 'The scope is not there any more');
        Scopes::refuseV6($ledger, $scope, 'classes tell clients of IPv4 apart', 'scope');
        $range = ScopeRange::query()->where('scope_id', $scope->id)->find($this->range)
            ?? $ledger->refuse('gone', 'The range is not there any more', field: 'range');
        $class = $this->for === 'all' ? null : (
            ClientClass::query()->find($this->class)
            ?? $ledger->refuse(
                'no-class',
                'Choose a class of clients',
                'Classes are made under Lease, Classes.',
                null,
                'class',
                at('lease.classes'),
            )
        );
        $range->class_id = $class?->id;
        $range->class_only = $class === null ? null : $this->for === 'only';
        $range->save();
        $scope->version = (int) $scope->getOriginal('version') + 1;
        $scope->save();
        if ($class !== null) {
            $open = ScopeRange::query()->where('scope_id', $scope->id)->whereKeyNot($range->id)->whereNull('class_id')->exists();
            if (! $open) {
                $ledger->warn(
                    'no-open-range',
                    $this->for === 'only'
                        ? "Clients outside of $class->name find no range here"
                        : "Clients of $class->name find no range here",
                    'They get no address, unless one is reserved for them.',
                    null,
                    'for',
                );
            }
        }
        $ledger->later('Clients that hold a lease keep it until it ends; the server goes by this once it is shipped');
    }
}
