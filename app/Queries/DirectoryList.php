<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Device;
use App\Models\Layer2Domain;
use App\Models\Person;
use App\Models\Role;
use App\Models\Space;
use App\Models\Tenant;
use App\Models\Vlan;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;

/** The lists of the directory that may grow long, filtered by words and read page by page. */
final class DirectoryList
{
    /** List → what a head is called in the address → columns. */
    private const SORTS = [
        'tenants' => ['name' => ['~tenants.name']],
        'spaces' => ['name' => ['~spaces.name'], 'rd' => ['spaces.route_distinguisher']],
        'vlans' => ['number' => ['vlans.number', 'layer2_domains.name'], 'name' => ['~vlans.name'],
            'domain' => ['~layer2_domains.name', 'vlans.number']],
        'domains' => ['name' => ['~layer2_domains.name'], 'site' => ['~sites.name', 'layer2_domains.name']],
        'devices' => ['name' => ['~devices.name'], 'kind' => ['devices.kind', '~devices.name'], 'site' => ['~sites.name', '~devices.name']],
        'people' => ['sign-in' => ['people.sign_in'], 'name' => ['people.name'], 'tenant' => ['tenants.name', 'people.name'],
            'open' => ['people.active', 'people.sign_in']],
    ];

    /** List → what a filter understands, with what it means. */
    private const WORDS = [
        'tenants' => [], 'spaces' => [],
        'vlans' => ['domain:' => 'start of a domain\'s name', 'site:' => 'start of a site\'s name',
            'is:wrong' => 'with something missing or different'],
        'domains' => ['site:' => 'start of a site\'s name'],
        'devices' => ['kind:' => 'start of its kind', 'site:' => 'start of a site\'s name'],
        'people' => ['role:' => 'a role', 'tenant:' => 'start of a tenant\'s name', 'is:open' => 'may sign in', 'is:closed' => 'may not'],
    ];

    /** @var list<string> */
    public array $misread = [];

    /** @param  string  $list  one that it {@see self::has()} */
    public function __construct(private readonly string $list, private readonly Reach $reach, private readonly string $filter)
    {
    }

    public static function has(string $list): bool
    {
        return isset(self::SORTS[$list]);
    }

    /** @return array<string, string> */
    public function words(): array
    {
        return self::WORDS[$this->list];
    }

    /** @return Listing<Model> */
    public function page(string $sort, int $page): Listing
    {
        /** @var Builder<Model> $query */
        $query = $this->rows();
        $words = new FilterWords($this->filter);
        foreach ($words->words as [$key, $value, $word]) {
            if (($key === null ? $this->plain($query, $value) : $this->narrow($query, $key, $value)) === null) {
                $keys = array_keys($this->words());
                $words->misread($word, 'there are '.($keys === [] ? 'names' : implode(', ', $keys).', and names'));
                $query->whereRaw('1 = 0');
            }
        }
        $this->misread = $words->misread;

        return Listing::of($query, self::SORTS[$this->list], $sort, $page, $query->getModel()->getQualifiedKeyName());
    }

    /** @return Builder<Tenant>|Builder<Space>|Builder<Vlan>|Builder<Layer2Domain>|Builder<Device>|Builder<Person> */
    private function rows(): Builder
    {
        return match ($this->list) {
            'tenants' => Tenant::query(),
            'spaces' => Space::query(),
            'vlans' => $this->reach->vlans()->join('layer2_domains', 'layer2_domains.id', '=', 'vlans.domain_id')
                ->select('vlans.*')->with('domain.site'),
            'domains' => Layer2Domain::query()->leftJoin('sites', 'sites.id', '=', 'layer2_domains.site_id')
                ->select('layer2_domains.*')->with('site'),
            'devices' => Device::query()->leftJoin('sites', 'sites.id', '=', 'devices.site_id')->select('devices.*'),
            'people' => Person::query()->whereNull('people.removed_at')->leftJoin('tenants', 'tenants.id', '=', 'people.tenant_id')
                ->select('people.*'),
            default => throw new \LogicException("There is no list of $this->list"),
        };
    }

    /**
     * A word without a key: the start of a name, or a number.
     *
     * @param  Builder<covariant Model>  $query
     * @return Builder<covariant Model>
     */
    private function plain(Builder $query, string $value): Builder
    {
        $table = $query->getModel()->getTable();
        $start = FilterWords::start($value);
        if ($this->list === 'vlans' && preg_match('/\A(\d{1,4})(?:-(\d{1,4}))?\z/', $value, $m) === 1) {
            return $query->whereBetween('vlans.number', [(int) $m[1], (int) ($m[2] ?? $m[1])]);
        }

        return $query->where(fn ($q) => $q->where("$table.name", 'like', $start)->orWhere("$table.name", 'like', "% $start")
            ->when($this->list === 'people', fn ($p) => $p->orWhere('people.sign_in', 'like', $start)));
    }

    /**
     * @param  Builder<covariant Model>  $query
     * @return ?Builder<covariant Model> null: it is not understood
     */
    private function narrow(Builder $query, string $key, string $value): ?Builder
    {
        $start = FilterWords::start($value);

        return match ("$this->list $key") {
            'vlans domain' => $query->where('layer2_domains.name', 'like', $start),
            'vlans site' => $query->whereHas('domain.site', fn ($q) => $q->where('name', 'like', $start)),
            'vlans is' => $value === 'wrong' ? $query->whereIn('vlans.id', VlanSheet::wrongOf($this->reach)) : null,
            'domains site', 'devices site' => $query->where('sites.name', 'like', $start),
            'devices kind' => $query->where('devices.kind', 'like', $start),
            'people tenant' => $query->where('tenants.name', 'like', $start),
            'people role' => Role::tryFrom($value) === null ? null : $query->whereJsonContains('people.roles', $value),
            'people is' => in_array($value, ['open', 'closed'], true) ? $query->where('people.active', $value === 'open') : null,
            default => null,
        };
    }
}
