<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\Written;
use App\Models\Person;

/** A sign-in, a refused one, a secret that was shown: kept in history beside what was written. */
final readonly class NoteAccess extends Act
{
    public function __construct(public string $what, public string $noun, public string $id, public string $line, public string $from)
    {
    }

    public function title(): string
    {
        return ucfirst($this->what);
    }

    public static function may(Person $person): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        $ledger->action = str_replace(' ', '-', $this->what);
        $ledger->written[] = new Written(
            'turn',
            $this->noun,
            $this->id,
            mb_scrub(mb_strimwidth($this->line, 0, 120, '…'), 'UTF-8'),
            [],
            ['from' => $this->from],
            null,
        );
    }
}
