<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use HarborPost\Core\Watch\QuietHours;
use Illuminate\Auth\Authenticatable;
use Illuminate\Contracts\Auth\Authenticatable as AuthenticatableContract;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * @property string $sign_in
 * @property string $name
 * @property string $password
 * @property list<string> $roles
 * @property ?string $tenant_id
 * @property string $theme
 * @property ?string $panels  keys of the bridge's panels in an order of one's own, apart by blanks
 * @property ?array{report?: ?string, chart?: ?array{string, string}, away?: list<string>} $bridge  what is kept there: a report, a server
 *     and its figure; panels that are taken away
 * @property ?array{hide: array<string, list<string>>, dense: bool} $tables  columns that are not shown, by table; are rows close together?
 * @property-read ?Tenant $tenant
 * @property ?string $mail
 * @property ?string $outside_name  as the identity provider knows them, written down by a steward
 * @property ?string $outside_subject  a digest of what it knows them by for good
 * @property MailWhen $mail_when
 * @property string $mail_zone  blank: the time zone of the settings
 * @property ?int $mail_hour  of the daily mail; null: that of the settings
 * @property ?int $quiet_from  minutes since midnight from which nothing is told
 * @property ?int $quiet_to
 * @property bool $active
 * @property ?CarbonImmutable $removed_at  since when they are on no list; the history keeps their name
 * @property bool $program  acts for nobody: it has tokens and no sign-in
 * @property int $epoch  raised when all sessions of the person end
 * @property bool $must_change  the password is for one sign-in
 * @property ?string $code_secret  of a second factor, in base 32; null: the password is enough
 * @property int $code_counter  the last step whose code was used
 * @property ?list<string> $paper_codes  hashes of codes on paper, each for one sign-in
 */
final class Person extends Model implements AuthenticatableContract
{
    use Authenticatable;

    protected $table = 'people';

    protected $casts = [
        'roles' => 'array', 'active' => 'boolean', 'program' => 'boolean', 'must_change' => 'boolean', 'password' => 'hashed',
        'code_secret' => 'encrypted',
        'paper_codes' => 'array', 'tables' => 'array', 'bridge' => 'array', 'mail_when' => MailWhen::class,
        'removed_at' => 'immutable_datetime',
    ];

    public function mailZone(): string
    {
        return $this->mail_zone !== '' ? $this->mail_zone : (string) config('harbor.mail.zone');
    }

    public function quietHours(): ?QuietHours
    {
        return $this->quiet_from === null || $this->quiet_to === null ? null
            : QuietHours::read(QuietHours::time($this->quiet_from), QuietHours::time($this->quiet_to), $this->mailZone());
    }

    private bool $asked = false;

    protected $hidden = ['password', 'remember_token', 'code_secret', 'paper_codes'];

    public static function noun(): string
    {
        return 'person';
    }

    public function line(): string
    {
        return "$this->name ($this->sign_in)".($this->removed_at === null ? '' : ', removed');
    }

    public static function secret(): array
    {
        return ['password', 'remember_token', 'code_secret', 'code_counter', 'paper_codes'];
    }

    public function does(Role $role): bool
    {
        return in_array($role->value, $this->roles, true);
    }

    /**
     * The same person with fewer roles, to ask what they may in these; it is never written.
     *
     * @param  list<string>  $roles
     */
    public function inRoles(array $roles): self
    {
        $same = clone $this;
        $same->roles = $roles;
        $same->syncOriginal();
        $same->asked = true;

        return $same;
    }

    /** @param  array<string, mixed>  $options */
    public function save(array $options = []): bool
    {
        return $this->asked ? throw new \LogicException('A person in fewer roles is asked about, and never written.')
            : parent::save($options);
    }

    /** Does a rule ask this person for a second factor that they do not have yet? */
    public function lacksSecondFactor(): bool
    {
        $roles = array_filter(explode(' ', (string) config('harbor.second_factor')));

        return $this->code_secret === null && array_intersect($roles, $this->roles) !== [];
    }

    /** May agree to drafts of others. */
    public function agrees(): bool
    {
        return $this->active && $this->does(Role::Approver) && ! $this->isBound();
    }

    /** Works on hosts, records and reservations; on which of them is decided by reach. */
    public function operates(): bool
    {
        return $this->does(Role::Operator) || $this->does(Role::Planner) || $this->does(Role::TenantAdmin);
    }

    /** Works on what belongs to no tenant alone: servers, scopes, scans. */
    public function operatesAll(): bool
    {
        return ($this->does(Role::Operator) || $this->does(Role::Planner)) && ! $this->isBound();
    }

    /** @return BelongsTo<Tenant, $this> */
    public function tenant(): BelongsTo
    {
        return $this->belongsTo(Tenant::class);
    }

    public function initials(): string
    {
        $words = preg_split('/\s+/', trim($this->name)) ?: [];

        return mb_strtoupper(mb_substr($words[0] ?? '', 0, 1).(count($words) > 1 ? mb_substr($words[count($words) - 1], 0, 1) : ''));
    }

    /** Sees only what belongs to one tenant, and what is granted. */
    public function isBound(): bool
    {
        return $this->tenant_id !== null || $this->does(Role::Guest);
    }
}
