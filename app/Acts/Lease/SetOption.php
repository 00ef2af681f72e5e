<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\OptionPlace;
use App\Domain\Lease\Options;
use App\Models\Person;
use App\Models\Scope;
use App\Queries\OptionReach;
use App\Queries\OwnOptions;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionLayer;
use HarborPost\Core\Net\Family;

/** An option gets a value in a layer, or in many scopes at once; a blank value gives it back to the outer layers. */
final readonly class SetOption extends Act
{
    /** @param  list<string>  $scopes */
    public function __construct(
        #[Field(Kind::Id, 'Scope', of: Scope::class)]
        public string $scope = '',
        #[Field(Kind::Number, 'Code', most: 65535, least: 1)]
        public int $code = 0,
        #[Field(Kind::Text, 'Value', 'Values as the option has them, a text as it is; bytes as 0x…; blank removes', most: 70000)]
        public string $value = '',
        #[Field(Kind::Flag, 'Empty on purpose', 'Clients are sent none, whatever an outer layer says')]
        public bool $empty = false,
        #[Field(Kind::Ids, 'Scopes', 'Several scopes at once', of: Scope::class)]
        public array $scopes = [],
        #[Field(Kind::Choice, 'Layer', choices: ['scope', 'organisation', 'server', 'site', 'class', 'reservation'])]
        public string $layer = 'scope',
        #[Field(Kind::Id, 'Object of the layer', 'A server, site, class or reservation; none for the organisation')]
        public string $of = '',
        #[Field(Kind::Choice, 'Family', 'Of a layer outside of scopes; a scope has the family of its subnet', choices: ['4', '6'])]
        public string $family = '4',
    ) {
    }

    public function title(): string
    {
        return ($this->value === '' && ! $this->empty ? 'Remove' : 'Set')." option $this->code";
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return match (true) {
            $this->layer === OptionLayer::Organisation->value => at('lease.options'),
            ! in_array($this->layer, ['', OptionLayer::Scope->value], true) => at('lease.options.of', $this->layer, $this->of),
            $this->scopes !== [] => at('lease'),
            default => at('lease.scope', $this->scope),
        };
    }

    public function apply(Ledger $ledger): void
    {
        $layer = OptionLayer::tryFrom($this->layer) ?? OptionLayer::Scope;
        if ($layer !== OptionLayer::Scope) {
            $place = OptionPlace::get($ledger, $layer, $this->of);
            $family = $this->familyOf($place);
            $values = $this->values($ledger, $family);
            $removes = $values === [] && ! $this->empty;
            if ($removes) {
                $this->sayReach($ledger, $place, $family);
            }
            Options::write($ledger, $place, $this->code, $values, $this->empty, $family);
            if (! $removes) {
                $this->sayReach($ledger, $place, $family);
            }

            return;
        }
        $ids = $this->scopes !== [] ? $this->scopes : [$this->scope];
        $first = null;
        foreach ($ids as $id) {
            $place = OptionPlace::get($ledger, $layer, $id);
            $family = $this->familyOf($place);
            $first ??= $family;
            if ($family !== $first) {
                $ledger->refuse(
                    'two-families',
                    "Option $this->code is one thing in IPv4 and another in IPv6",
                    "Set it for the scopes of one family, then for those of the other; {$place->name} is the first that differs.",
                );
            }
            Options::write($ledger, $place, $this->code, $this->values($ledger, $family), $this->empty, $family);
        }
    }

    private function familyOf(OptionPlace $place): Family
    {
        return $place->scope?->family() ?? ($this->family === '6' ? Family::V6 : Family::V4);
    }

    /** @return list<string> */
    private function values(Ledger $ledger, Family $family): array
    {
        try {
            return OwnOptions::now()->typed($this->code, $this->value, $family);
        } catch (BadOption $e) {
            $ledger->refuse('bad-option', $e->getMessage(), field: 'code');
        }
    }

    /** An outer value is seen by many: how many, and who keeps a value of their own. */
    private function sayReach(Ledger $ledger, OptionPlace $place, Family $family): void
    {
        if ($place->layer === OptionLayer::Reservation) {
            $ledger->reaches($place->scope === null ? [] : [$place->scope->id]);

            return;
        }
        $reach = OptionReach::of($place->layer, $place->id, $this->code, $family);
        $ledger->reaches(
            array_map(static fn (Scope $s): string => $s->id, $reach['reached']),
            $place->layer === OptionLayer::Server ? $place->id : '',
        );
        $scopes = static fn (int $n): string => $n === 1 ? '1 scope' : "$n scopes";
        $ledger->later(
            ($place->layer === OptionLayer::ClientClass
                ? "Reaches clients of $place->name in ".$scopes(count($reach['reached']))
                : 'Reaches '.$scopes(count($reach['reached'])).' with '.number_format($reach['clients']).' clients that have a lease now')
                .($reach['reached'] === [] ? '' : ': '.OptionReach::some($reach['reached'])),
        );
        if ($reach['keep'] !== []) {
            $ledger->later($scopes(count($reach['keep'])).' keep a nearer value: '.OptionReach::some($reach['keep']));
        }
    }
}
