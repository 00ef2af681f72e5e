<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Device;
use App\Models\Person;
use App\Models\Site;
use App\Models\Tenant;

/** A device gets another name, kind, site or owner. */
final readonly class ChangeDevice extends Act
{
    use Renames;

    public function __construct(
        #[Field(Kind::Id, 'Device', of: Device::class)]
        public string $device,
        #[Field(Kind::Line, 'Name', most: 120)]
        public ?string $name = null,
        #[Field(Kind::Line, 'Kind', most: 60)]
        public ?string $kind = null,
        #[Field(Kind::Id, 'Site', of: Site::class, dash: true)]
        public ?string $site = null,
        #[Field(Kind::Id, 'Owner', of: Tenant::class, dash: true)]
        public ?string $tenant = null,
    ) {
    }

    public function title(): string
    {
        return 'Change the device '.(Device::query()->find($this->device)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('directory.list', 'devices');
    }

    public function apply(Ledger $ledger): void
    {
        $row = Device::query()->find($this->device) ?? $ledger->refuse('gone', 'The device is not there any more');
        self::rename($ledger, $row, $this->name);
        $row->fill([
            'kind' => $this->kind === null ? $row->kind : trim($this->kind), 'site_id' => self::chosen($this->site, $row->site_id),
            'tenant_id' => self::chosen($this->tenant, $row->tenant_id),
        ])->save();
    }
}
