<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Device;
use App\Models\Layer2Domain;
use App\Models\OwnField;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Site;
use App\Models\Space;
use App\Models\Tenant;
use App\Models\View;

/** What the selects of forms offer: id → text, limited to what the person may see. */
final class Choices
{
    /** @var array<string, array<string, string>> each list is read once a page */
    private array $read = [];

    public function __construct(private readonly Reach $reach)
    {
    }

    /**
     * @param  \Closure(): array<string, string>  $query
     * @return array<string, string>
     */
    private function once(string $what, \Closure $query): array
    {
        return $this->read[$what] ??= $query();
    }

    /** @return array<string, string> */
    public function sites(): array
    {
        return $this->once('sites', fn (): array => $this->reach->sites()->orderBy('name')->pluck('name', 'id')->all());
    }

    /** @return array<string, string> */
    public function tenants(): array
    {
        return $this->once(
            'tenants',
            fn (): array => $this->reach->isWhole() ? Tenant::query()->orderBy('name')->pluck('name', 'id')->all() : [],
        );
    }

    /** @return array<string, string> */
    public function spaces(): array
    {
        return $this->once('spaces', fn (): array => Space::query()->orderBy('name')->pluck('name', 'id')->all());
    }

    /** @return array<string, string> number and name, those of one site first where it is given */
    public function vlans(?string $site = null): array
    {
        return $this->once("vlans $site", fn (): array => $this->reach->vlans()
            ->join('layer2_domains', 'layer2_domains.id', '=', 'vlans.domain_id')
            ->orderByRaw('CASE WHEN layer2_domains.site_id = ? THEN 0 ELSE 1 END', [$site ?? ''])
            ->orderBy('layer2_domains.name')->orderBy('number')
            ->limit(500)->get(['vlans.id', 'vlans.number', 'vlans.name', 'layer2_domains.name as domain'])
            ->mapWithKeys(fn ($v): array => [$v->id => "$v->number $v->name, {$v->getAttribute('domain')}"])->all());
    }

    /** @var list<OwnField>|null */
    private ?array $own = null;

    /** @return list<OwnField> */
    public function ownFields(): array
    {
        return $this->own ??= array_values(OwnField::query()->orderBy('name')->get()->all());
    }

    /** @return array<string, string> */
    public function domains(): array
    {
        return $this->once('domains', fn (): array => Layer2Domain::query()->orderBy('name')->pluck('name', 'id')->all());
    }

    /** @return array<string, string> */
    public function zones(bool $forward = true): array
    {
        return $this->once('zones '.($forward ? 'forward' : 'all'), fn (): array => $this->reach->zones()
            ->join('views', 'views.id', '=', 'zones.view_id')
            ->when($forward, fn ($q) => $q->where('zones.name', 'not like', '%.arpa.'))
            ->orderBy('zones.name')->orderBy('views.position')->limit(500)->get(['zones.id', 'zones.name', 'views.name as view'])
            ->mapWithKeys(fn ($z): array => [$z->id => rtrim($z->name, '.').', '.$z->getAttribute('view')])->all());
    }

    /** @return array<string, string> */
    public function devices(): array
    {
        return $this->once(
            'devices',
            fn (): array => $this->reach->isWhole() ? Device::query()->orderBy('name')->limit(500)->pluck('name', 'id')->all() : [],
        );
    }

    /** @return array<string, string> */
    public function views(): array
    {
        return $this->once('views', fn (): array => View::query()->orderBy('position')->pluck('name', 'id')->all());
    }

    /** @return array<string, string> */
    public function servers(ServerKind ...$kinds): array
    {
        return $this->once(
            'servers '.implode(' ', array_column($kinds, 'value')),
            fn (): array => $this->reach->isWhole()
                ? Server::query()->whereIn('kind', $kinds)->orderBy('name')->pluck('name', 'id')->all()
                : [],
        );
    }

    /** @return list<string> of those, which a zone is placed on where nothing else is said */
    public function usualForZones(): array
    {
        return $this->reach->isWhole() ? Server::usualForZones() : [];
    }
}
