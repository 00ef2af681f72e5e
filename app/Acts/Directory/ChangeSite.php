<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Person;
use App\Models\Role;
use App\Models\Site;
use App\Models\Tenant;
use App\Queries\SitesBelow;

/** A site gets another name, place in the tree, or owner. */
final readonly class ChangeSite extends Act
{
    use Renames;

    public function __construct(
        #[Field(Kind::Id, 'Site', of: Site::class)]
        public string $site,
        #[Field(Kind::Line, 'Name', most: 120)]
        public ?string $name = null,
        #[Field(Kind::Id, 'Site above', of: Site::class, dash: true)]
        public ?string $parent = null,
        #[Field(Kind::Id, 'Owner', of: Tenant::class, dash: true)]
        public ?string $tenant = null,
    ) {
    }

    public function title(): string
    {
        return 'Change the site '.(Site::query()->find($this->site)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('directory.site', $this->site);
    }

    public function apply(Ledger $ledger): void
    {
        // Two that move sites into each other would make a circle.
        Guard::own('site-tree');
        $row = Site::query()->find($this->site) ?? $ledger->refuse('gone', 'The site is not there any more');
        self::rename($ledger, $row, $this->name);
        $parent = self::chosen($this->parent, $row->parent_id);
        if ($parent !== null && in_array($parent, SitesBelow::of($row->id), true)) {
            $ledger->refuse('site-circle', "$row->name would lie in itself", 'Choose a site that is not in it.', field: 'parent');
        }
        if ($parent !== $row->parent_id) {
            $ledger->warn(
                'site-moves',
                "$row->name moves, with all that lies in it",
                'Settings, options, windows and grants of the sites above it hold from now on, and those of the old ones no more.',
                field: 'parent',
            );
        }
        $row->fill(['parent_id' => $parent, 'tenant_id' => self::chosen($this->tenant, $row->tenant_id)])->save();
    }
}
