<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\OptionValue;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Scope;
use App\Models\Site;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use Illuminate\Database\Eloquent\Collection;

/** Resolvers and search suffixes that clients are given, and by whom. */
final class GivenResolvers
{
    /** family → options of the resolvers and of the search suffixes */
    private const CODES = [4 => [OptionTable::NAME_SERVERS, OptionTable::SEARCH], 6 => [Code::NAME_SERVERS, Code::SEARCH]];

    /**
     * @return list<array{label: string, link: string, resolvers: list<string>, search: list<string>, origin: string}> what sites, and
     *     scopes with values of their own, hand to clients
     */
    public static function everywhere(): array
    {
        $rows = [];
        $inherited = app(Inherited::class);
        foreach (Site::query()->orderBy('name')->limit(100)->get() as $site) {
            $of = $inherited->ofSite($site->id);
            $rows[] = [
                'label' => $site->name, 'link' => at('directory.site', $site->id), 'resolvers' => $of['resolvers']['value'],
                'search' => $of['search']['value'], 'origin' => $of['resolvers']['origin']['label'] ?? 'nobody',
            ];
        }
        $own = OptionValue::query()->where('layer', 'scope')->where(
            fn ($q) => $q->where(fn ($w) => $w->where('family', Family::V4)->whereIn('code', self::CODES[4]))
                ->orWhere(fn ($w) => $w->where('family', Family::V6)->whereIn('code', self::CODES[6])),
        )->limit(200)->get()->groupBy('layer_id');
        foreach (Scope::query()->with('prefix')->whereIn('id', $own->keys())->orderBy('name')->get() as $scope) {
            $values = ($own[$scope->id] ?? new Collection)->pluck('values', 'code');
            [$servers, $search] = self::CODES[$scope->prefix->family];
            $rows[] = [
                'label' => "scope $scope->name", 'link' => at('lease.scope', $scope->id),
                'resolvers' => $values[$servers] ?? [], 'search' => $values[$search] ?? [],
                'origin' => 'its own option',
            ];
        }

        return $rows;
    }

    /** @return list<string> the resolvers that a client at an address is given: by its scope, else by the settings that reach its subnet */
    public static function at(?Address $client): array
    {
        $subnet = $client === null
            ? null
            : Prefix::query()->where('kind', PrefixKind::Subnet)->where('family', $client->family->value)
                ->where('first', '<=', $client->bytes)->orderByDesc('first')->limit(8)->get()
                ->first(fn (Prefix $p): bool => $p->prefix()->contains($client));
        if ($subnet === null) {
            return app(Inherited::class)->ofSite('')['resolvers']['value'];
        }

        return self::in($subnet, Scope::query()->where('prefix_id', $subnet->id)->first());
    }

    /** @return list<string> in a subnet: by its scope's own option, else by the settings that reach it */
    public static function in(Prefix $subnet, ?Scope $scope): array
    {
        $own = $scope?->optionValues->firstWhere('code', self::CODES[$subnet->family][0]);

        return $own === null ? app(Inherited::class)->of($subnet)['resolvers']['value'] : $own->values;
    }
}
