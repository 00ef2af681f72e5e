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
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionLayer;
use HarborPost\Core\Dhcp\Option\OptionTable;

/** An option gets a value in a layer, or in many scopes at once; a blank value gives it back to the outer layers. */
final readonly class SetOption extends Act
{
    /** @param  list<string>  $scopes */
    public function __construct(
        #[Field(Kind::Id, 'Scope', of: Scope::class)]
        public string $scope = '',
        #[Field(Kind::Number, 'Code', most: 254, least: 1)]
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
            $this->layer === OptionLayer::Organisation->value => '/lease/options',
            ! in_array($this->layer, ['', OptionLayer::Scope->value], true) => "/lease/options/$this->layer/$this->of",
            $this->scopes !== [] => '/lease',
            default => "/lease/scope/$this->scope",
        };
    }

    public function apply(Ledger $ledger): void
    {
        $layer = OptionLayer::tryFrom($this->layer) ?? OptionLayer::Scope;
        try {
            $values = OptionTable::split($this->code, $this->value);
        } catch (BadOption $e) {
            $ledger->refuse('bad-option', $e->getMessage(), field: 'code');
        }
        if ($layer !== OptionLayer::Scope) {
            $place = OptionPlace::get($ledger, $layer, $this->of);
            $removes = $values === [] && ! $this->empty;
            if ($removes) {
                $this->sayReach($ledger, $place);
            }
            Options::write($ledger, $place, $this->code, $values, $this->empty);
            if (! $removes) {
                $this->sayReach($ledger, $place);
            }

            return;
        }
        $ids = $this->scopes !== [] ? $this->scopes : [$this->scope];
        foreach ($ids as $id) {
            Options::write($ledger, OptionPlace::get($ledger, $layer, $id), $this->code, $values, $this->empty);
        }
    }

    /** An outer value is seen by many: how many, and who keeps a value of their own. */
    private function sayReach(Ledger $ledger, OptionPlace $place): void
    {
        if ($place->layer === OptionLayer::Reservation) {
            return;
        }
        $reach = OptionReach::of($place->layer, $place->id, $this->code);
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
