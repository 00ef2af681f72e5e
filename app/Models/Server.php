<?php

declare(strict_types=1);

namespace App\Models;

use App\Casts\AddressBytes;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Net\Address;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A server outside: its address in the plan, and the endpoints where it is reached.
 *
 * @property string $name
 * @property ServerKind $kind
 * @property ?string $site_id
 * @property ?string $tenant_id  its owner; null: that of its site
 * @property ?Address $address
 * @property string $endpoint
 * @property Speaks $speaks
 * @property ?string $control
 * @property ?string $catalog  the zone that lists the zones handed out from here, one for each view below it (RFC 9432)
 * @property ?string $key_id  signs what is asked by the standards, where no zone names one of its own
 * @property ?string $token
 * @property bool $held
 * @property ?string $metrics  where its figures are read: an address, or "control" for its control endpoint
 * @property bool $measured
 * @property int $probe_tries  of an address before it is offered
 * @property int $probe_wait_ms  for an answer to each
 * @property string $unmeasured_why
 * @property ShipsWhen $ships
 * @property ?array{recursion?: bool, forwarders?: list<string>, fallback?: bool, hints?: list<array{name: string,
 *     addresses: list<string>}>, hints_at?: string, hints_from?: string, also?: list<string>, zones?: list<array{zone: string,
 * kind: string, addresses: list<string>}>, validating?: bool, anchors?: list<string>, negative?: list<string>} $resolving  forwarders in
 * order; fallback: asks the roots when none answers; also: further
 * addresses of the server; zones: forwarded ones (asked of these servers, which recurse) and stubs (asked of their own name servers);
 * anchors: "zone type
 *     data" that are trusted, used when validating; negative: zones that are believed without proof
 * @property-read ?Site $site
 * @property-read ?TransferKey $key
 */
final class Server extends Model
{
    /** Its figures are read at its control endpoint, by HTTP. */
    public const AT_CONTROL = 'control';

    protected $table = 'servers';

    /** @var array<string, string|bool|int> */
    protected $attributes = ['ships' => 'hand', 'speaks' => 'control', 'measured' => true, 'unmeasured_why' => '', 'probe_tries' => 0,
        'probe_wait_ms' => 500,
    ];

    protected $casts = [
        'kind' => ServerKind::class, 'address' => AddressBytes::class, 'token' => 'encrypted', 'held' => 'boolean',
        'measured' => 'boolean', 'resolving' => 'array',
        'ships' => ShipsWhen::class, 'speaks' => Speaks::class,
    ];

    protected $hidden = ['token'];

    public static function secret(): array
    {
        return ['token'];
    }

    /** What it is there for, in words. */
    public function does(): string
    {
        return $this->speaks === Speaks::Here ? 'hands zones out to who copies them' : $this->kind->does();
    }

    /** Where its figures are read by HTTP. */
    public function figuresAt(): ?string
    {
        return match ($this->metrics) {
            null => null,
            self::AT_CONTROL => $this->control === null ? null
                : (str_contains($this->control, '://') ? rtrim($this->control, '/') : "http://$this->control").at('metrics'),
            default => $this->metrics,
        };
    }

    /** The name of the catalog zone of a view: below what the server's is called, so that no two views share one. */
    public function catalogOf(View $view): ?Name
    {
        $label = trim((string) preg_replace('/[^a-z0-9]+/', '-', strtolower($view->name)), '-');

        return $this->catalog === null ? null : Name::tryParse("$label.$this->catalog")?->lower();
    }

    /** The plan can be brought to it. */
    public function isReached(): bool
    {
        return in_array($this->kind, ServerKind::shipped(), true) && ($this->control !== null || $this->speaks !== Speaks::Control);
    }

    /**
     * Those that the plan can be brought to.
     *
     * @return \Illuminate\Database\Eloquent\Builder<Server>
     */
    public static function reached(): \Illuminate\Database\Eloquent\Builder
    {
        return self::query()->whereIn('kind', ServerKind::shipped())
            ->where(static fn ($q) => $q->whereNotNull('control')->orWhere('speaks', '!=', Speaks::Control));
    }

    /**
     * Those that answer questions: what hands zones out here answers nobody but who copies them.
     *
     * @param  list<ServerKind>  $kinds
     * @return \Illuminate\Database\Eloquent\Builder<Server>
     */
    public static function answering(array $kinds): \Illuminate\Database\Eloquent\Builder
    {
        return self::query()->whereIn('kind', $kinds)->where('speaks', '!=', Speaks::Here);
    }

    /**
     * Those that a zone is placed on where nothing else is said. One that is reached by the standards is chosen by name: who keeps it has
     * to make each zone there first.
     *
     * @return list<string> ids, in the order of names
     */
    public static function usualForZones(): array
    {
        return array_values(array_map(strval(...), self::query()->where('kind', ServerKind::Dns)->where('speaks', Speaks::Control)
            ->orderBy('name')->pluck('id')->all()));
    }

    /** @return BelongsTo<TransferKey, $this> */
    public function key(): BelongsTo
    {
        return $this->belongsTo(TransferKey::class, 'key_id');
    }

    /** @return BelongsTo<Site, $this> */
    public function site(): BelongsTo
    {
        return $this->belongsTo(Site::class);
    }

    public static function noun(): string
    {
        return 'server';
    }

    public function line(): string
    {
        return $this->name;
    }
}
