<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Layer2Domain;
use App\Models\Server;
use App\Models\Site;
use App\Models\Space;
use App\Models\Tenant;
use App\Models\View;

/** What the selects of forms offer: id → text, limited to what the person may see. */
final readonly class Choices
{
    public function __construct(private Reach $reach)
    {
    }

    /** @return array<string, string> */
    public function sites(): array
    {
        return $this->reach->sites()->orderBy('name')->pluck('name', 'id')->all();
    }

    /** @return array<string, string> */
    public function tenants(): array
    {
        return $this->reach->isWhole() ? Tenant::query()->orderBy('name')->pluck('name', 'id')->all() : [];
    }

    /** @return array<string, string> */
    public function spaces(): array
    {
        return Space::query()->orderBy('name')->pluck('name', 'id')->all();
    }

    /** @return array<string, string> number and name, those of one site first where it is given */
    public function vlans(?string $site = null): array
    {
        $rows = $this->reach->vlans()->join('layer2_domains', 'layer2_domains.id', '=', 'vlans.domain_id')
            ->orderByRaw('CASE WHEN layer2_domains.site_id = ? THEN 0 ELSE 1 END', [$site ?? ''])->orderBy('layer2_domains.name')->orderBy('number')
            ->limit(500)->get(['vlans.id', 'vlans.number', 'vlans.name', 'layer2_domains.name as domain']);

        return $rows->mapWithKeys(fn ($v): array => [$v->id => "$v->number $v->name, {$v->getAttribute('domain')}"])->all();
    }

    /** @return array<string, string> */
    public function domains(): array
    {
        return Layer2Domain::query()->orderBy('name')->pluck('name', 'id')->all();
    }

    /** @return array<string, string> */
    public function zones(bool $forward = true): array
    {
        return $this->reach->zones()->join('views', 'views.id', '=', 'zones.view_id')->when($forward, fn ($q) => $q->where('zones.name', 'not like', '%.arpa.'))
            ->orderBy('zones.name')->orderBy('views.position')->limit(500)->get(['zones.id', 'zones.name', 'views.name as view'])
            ->mapWithKeys(fn ($z): array => [$z->id => rtrim($z->name, '.').', '.$z->getAttribute('view')])->all();
    }

    /** @return array<string, string> */
    public function views(): array
    {
        return View::query()->orderBy('position')->pluck('name', 'id')->all();
    }

    /** @return array<string, string> */
    public function servers(string ...$kinds): array
    {
        return $this->reach->isWhole() ? Server::query()->whereIn('kind', $kinds)->orderBy('name')->pluck('name', 'id')->all() : [];
    }
}
