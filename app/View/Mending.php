<?php

declare(strict_types=1);

namespace App\View;

use App\Acts\Engine\Act;
use App\Acts\Plan\ChangeHosts;
use App\Acts\Plan\ChangePrefix;
use App\Models\Audit;
use App\Models\FactKind;
use App\Models\OwnField;
use App\Queries\Facts\Condition;
use App\Queries\Facts\Test;
use Illuminate\Support\Collection;

/** The form that mends what fails a rule, for all that are picked: the fields of the act that the rule asks about. */
final readonly class Mending
{
    /** Facts of a kind that its act sets. */
    private const FIELDS = [
        'subnet' => ['name', 'stage', 'site', 'vlan', 'gateway', 'tenant', 'role', 'description', 'tags'],
        'address' => ['role', 'owner', 'device', 'description'],
    ];

    /**
     * @param  class-string<Act>  $act
     * @param  string  $picks  the field that takes what is picked
     * @param  array<string, string>  $fields  field → what the rule wants there; blank where it wants anything
     * @param  Collection<int, OwnField>  $own  fields of one's own that the rule asks about
     */
    private function __construct(public string $act, public string $picks, public array $fields, public Collection $own)
    {
    }

    /**
     * @param  Collection<int, OwnField>  $own  all fields of one's own
     * @return ?self null where what fails is mended on its own page alone
     */
    public static function of(Audit $audit, Collection $own): ?self
    {
        $fields = $asked = [];
        foreach (Condition::all($audit->kind, $audit->must) as $must) {
            in_array($must->fact, self::FIELDS[$audit->kind->value] ?? [], true)
                ? $fields[$must->fact] = $must->test === Test::Is ? $must->value : ''
                : $asked[$must->fact] = true;
        }
        $asked = $own->filter(static fn (OwnField $f): bool => isset($asked["own-$f->id"]))->values();

        return $fields === [] && $asked->isEmpty() ? null : new self(
            $audit->kind === FactKind::Subnet ? ChangePrefix::class : ChangeHosts::class,
            $audit->kind === FactKind::Subnet ? 'prefixes' : 'hosts', $fields, $asked,
        );
    }
}
