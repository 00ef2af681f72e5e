<?php

declare(strict_types=1);

namespace App\Acts\Watch;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Kept;
use App\Models\Person;
use App\Models\Retention;
use App\Models\Role;
use App\Queries\KeptRows;

/** How long a kind of what is over is kept; what is older goes in the next night. */
final readonly class KeepRetention extends Act
{
    private const KINDS = [
        'former-leases', 'notices', 'reports', 'mails', 'shipments', 'scans', 'leases', 'sightings', 'imports', 'deliveries', 'use',
    ];

    public function __construct(
        #[Field(Kind::Choice, 'What', choices: self::KINDS)]
        public string $kind,
        #[Field(Kind::Number, 'Days', 'None: for ever', most: 36500, least: 1)]
        public ?int $days = null,
    ) {
    }

    public function title(): string
    {
        return 'Keep '.lcfirst(Kept::from($this->kind)->title()).($this->days === null ? ' for ever' : " for $this->days days");
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Steward);
    }

    public function landing(): string
    {
        return at('watch.kept');
    }

    public function apply(Ledger $ledger): void
    {
        $kind = Kept::from($this->kind);
        if ($this->days !== null && $this->days < $kind->least()) {
            $ledger->refuse(
                'kept-too-short',
                "At least {$kind->least()} days are kept",
                'Pages still compute with what is younger.',
                null,
                'days',
            );
        }
        $rule = Retention::for($kind);
        $rule->days = $this->days;
        $rule->save();
        $goes = $this->days === null ? 0 : KeptRows::older($kind, $this->days);
        if ($goes > 0) {
            $many = $goes > KeptRows::COUNTED ? 'More than '.number_format(KeptRows::COUNTED) : number_format($goes);
            $ledger->later("$many rows go in the next night, and do not come back");
        }
    }
}
