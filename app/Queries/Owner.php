<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Device;
use App\Models\Server;
use App\Models\Site;
use App\Models\Tenant;
use App\Models\Vlan;

/** Who owns what: by itself, or by the site that it is at, the nearest above that has an owner. Read once for each object of this class. */
final class Owner
{
    /** @var array<string, array{?string, string, ?string}>|null site → parent, name, tenant */
    private ?array $sites = null;

    /** @var array<string, string>|null tenant → name */
    private ?array $tenants = null;

    /** @return array{tenant: ?string, from: ?string} the tenant's name, and the site that hands it down; null where it is its own */
    public function of(Site|Vlan|Device|Server $row): array
    {
        $own = $row->getAttribute('tenant_id');
        if (is_string($own)) {
            return ['tenant' => $this->name($own), 'from' => null];
        }
        $at = match (true) {
            $row instanceof Site => $row->parent_id,
            $row instanceof Vlan => $row->domain->site_id,
            default => $row->site_id,
        };
        $this->sites ??= Site::query()->get(['id', 'parent_id', 'name', 'tenant_id'])->mapWithKeys(
            static fn (Site $s): array => [$s->id => [$s->parent_id, $s->name, $s->tenant_id]],
        )->all();
        for ($seen = []; $at !== null && isset($this->sites[$at]) && ! isset($seen[$at]); $at = $this->sites[$at][0]) {
            $seen[$at] = true;
            if ($this->sites[$at][2] !== null) {
                return ['tenant' => $this->name($this->sites[$at][2]), 'from' => $this->sites[$at][1]];
            }
        }

        return ['tenant' => null, 'from' => null];
    }

    /** In words: "Kittiwake Retail, from Tarbeck". */
    public function words(Site|Vlan|Device|Server $row): string
    {
        $owner = $this->of($row);

        return $owner['tenant'] === null ? '' : $owner['tenant'].($owner['from'] === null ? '' : ", from $owner[from]");
    }

    private function name(string $tenant): string
    {
        $this->tenants ??= Tenant::query()->pluck('name', 'id')->all();

        return $this->tenants[$tenant] ?? '';
    }
}
