<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Domain\Directory\Hanging;
use App\Models\Device;
use App\Models\Model;
use App\Models\Nouns;
use App\Models\Person;
use App\Models\Role;
use App\Models\Server;
use App\Models\View;

/** A site, tenant, device, space, view, layer-2 domain or server is taken out of the directory, when nothing hangs on it any more. */
final readonly class RemoveObject extends Act
{
    private const NOUNS = ['site', 'tenant', 'device', 'space', 'layer-2 domain', 'view', 'server'];

    public function __construct(
        #[Field(Kind::Choice, 'Kind', choices: self::NOUNS)]
        public string $noun,
        #[Field(Kind::Line, 'Object', 'Its id', most: 26)]
        public string $object,
    ) {
    }

    public function title(): string
    {
        return "Remove the $this->noun ".($this->row()?->line() ?? '');
    }

    public static function may(Person $person): bool
    {
        return ($person->operatesAll() || $person->does(Role::Steward)) && ! $person->isBound();
    }

    public function landing(): string
    {
        return match ($this->noun) {
            'site', 'tenant', 'device', 'space' => at('directory.list', $this->noun.'s'),
            'layer-2 domain' => at('directory.list', 'domains'),
            'view' => at('name.views'),
            'server' => at('ship'),
            default => at('directory'),
        };
    }

    public function apply(Ledger $ledger): void
    {
        Guard::own("directory:$this->object");
        $row = $this->row() ?? $ledger->refuse('gone', "The $this->noun is not there any more");
        $person = $ledger->person;
        $may = $person === null || match (true) {
            $row instanceof Server => $person->does(Role::Steward),
            $row instanceof Device, $row instanceof View => $person->operatesAll(),
            default => $person->does(Role::Planner),
        };
        if (! $may) {
            $ledger->refuse('not-allowed', 'Not available to you', 'Your roles do not include this. A steward can change that.');
        }
        $hangs = Hanging::on($row);
        if ($hangs !== []) {
            $ledger->refuse(
                'still-hangs',
                "{$row->line()} is named by ".implode('; ', $hangs),
                'Move or remove these first.',
                link: $this->landing(),
            );
        }
        $row->delete();
    }

    private function row(): ?Model
    {
        return in_array($this->noun, self::NOUNS, true) ? Nouns::query($this->noun)?->find($this->object) : null;
    }
}
