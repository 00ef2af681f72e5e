<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Layer2Domain;
use App\Models\Person;
use App\Models\Role;
use App\Models\Site;

/** A layer-2 domain gets another name or site. */
final readonly class ChangeDomain extends Act
{
    use Renames;

    public function __construct(
        #[Field(Kind::Id, 'Layer-2 domain', of: Layer2Domain::class)]
        public string $domain,
        #[Field(Kind::Line, 'Name', most: 120)]
        public ?string $name = null,
        #[Field(Kind::Id, 'Site', of: Site::class, dash: true)]
        public ?string $site = null,
    ) {
    }

    public function title(): string
    {
        return 'Change the layer-2 domain '.(Layer2Domain::query()->find($this->domain)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('directory.list', 'domains');
    }

    public function apply(Ledger $ledger): void
    {
        $row = Layer2Domain::query()->find($this->domain) ?? $ledger->refuse('gone', 'The layer-2 domain is not there any more');
        $old = $row->name;
        self::rename($ledger, $row, $this->name);
        if ($row->name !== $old) {
            $ledger->warn(
                'domain-renamed',
                "Switches that call it $old are not matched any more",
                'What they say is matched by the name of the domain: name it there too.',
                field: 'name',
            );
        }
        $row->fill(['site_id' => self::chosen($this->site, $row->site_id)])->save();
    }
}
