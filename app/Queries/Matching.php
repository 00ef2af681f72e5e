<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Audit;
use App\Models\FactKind;
use App\Models\Host;
use App\Models\Prefix;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;

/** All rows of a list that its filter finds, for one act on them at once. */
enum Matching: string
{
    case Hosts = 'hosts';
    case Inside = 'inside';
    case Leases = 'leases';
    case Scopes = 'scopes';
    case Coverage = 'coverage';
    case Without = 'without';
    /** what fails a rule and is not left so */
    case Failing = 'failing';

    /** So many are taken at once: an act writes them one by one in one commit, and shows each before. */
    public const AT_ONCE = 2000;

    /**
     * @param  string  $within  what the list is of: a prefix for hosts and for what is inside of it
     * @return list<string> ids, one more than {@see AT_ONCE} at most; none where the filter is not understood
     */
    public function ids(string $within, string $filter, Reach $reach): array
    {
        $query = $this->query($within, $filter, $reach);
        $key = $query?->getModel()->getQualifiedKeyName() ?? '';

        return $query === null ? [] : array_values(array_map(
            strval(...),
            $query->reorder($key)->limit(self::AT_ONCE + 1)->toBase()->pluck($key)->all(),
        ));
    }

    /** @return Builder<covariant Model>|null */
    private static function failing(string $audit, Reach $reach): ?Builder
    {
        $rule = $reach->isWhole() ? Audit::query()->find($audit) : null;
        $open = static fn (\Illuminate\Database\Query\Builder $q) => $q->from('audit_findings')->where('audit_id', $audit)
            ->whereNull('waived_until')->select('object_id');

        return match ($rule?->kind) {
            FactKind::Subnet => Prefix::query()->whereIn('prefixes.id', $open),
            FactKind::Address => Host::query()->whereIn('addresses.id', $open),
            default => null,
        };
    }

    /** @return Builder<covariant Model>|null null where what the list is of is not there, or not to be seen */
    private function query(string $within, string $filter, Reach $reach): ?Builder
    {
        $prefix = $this === self::Hosts || $this === self::Inside ? $reach->prefixes()->find($within) : null;

        return match ($this) {
            self::Hosts => $prefix === null ? null : PrefixPage::hostsOf($prefix, $filter),
            self::Inside => $prefix === null ? null : (new PrefixPage($reach))->insideOf($prefix, null, $filter),
            self::Leases => (new LeaseList($reach, $filter, $within === '' ? null : $within))->query(),
            self::Scopes => (new ScopeList($reach, $filter))->query(),
            self::Coverage => (new Coverage($reach, $filter))->query(),
            self::Without => ScopeList::withoutScope($reach, $filter),
            self::Failing => self::failing($within, $reach),
        };
    }
}
