<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\OptionValue;
use App\Models\Person;
use App\Models\Scope;
use HarborPost\Core\Checks\HostName;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Net\Address;

/** An option of a scope gets a value, or gives it back when the value is blank. */
final readonly class SetOption extends Act
{
    /** Options that a server computes, or that only messages carry. */
    private const NOT_BY_HAND = [1, 50, 51, 52, 53, 54, 55, 57, 58, 59, 61, 82];

    /** Options whose bytes do not tell how they were written. */
    private const AS_TYPED = [OptionTable::VENDOR, 125];

    public function __construct(
        #[Field(Kind::Id, 'Scope', of: Scope::class)]
        public string $scope,
        #[Field(Kind::Number, 'Code', most: 254, least: 1)]
        public int $code,
        #[Field(Kind::Text, 'Value', 'Values as the option has them, a text as it is; bytes as 0x…; blank removes', most: 70000)]
        public string $value = '',
        #[Field(Kind::Flag, 'Empty on purpose', 'Clients are sent none, whatever an outer layer says')]
        public bool $empty = false,
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
        return "/lease/scope/$this->scope";
    }

    public function apply(Ledger $ledger): void
    {
        $scope = Scope::query()->with('prefix')->find($this->scope) ?? $ledger->refuse('gone', 'The scope is not there any more');
        try {
            $values = OptionTable::split($this->code, $this->value);
        } catch (BadOption $e) {
            $ledger->refuse('bad-option', $e->getMessage(), field: 'code');
        }
        self::write($ledger, $scope, $this->code, $values, $this->empty);
    }

    /**
     * @param  list<string>  $values  as typed: they are kept so, and encoded when they are sent
     * @param  bool  $empty  no values on purpose: hides those of outer layers
     */
    public static function write(Ledger $ledger, Scope $scope, int $code, array $values, bool $empty = false): void
    {
        Guard::own("option:$scope->id:$code");
        $row = OptionValue::query()->where('layer', 'scope')->where('layer_id', $scope->id)->where('code', $code)->first();
        if ($values === [] && ! $empty) {
            $row?->delete();

            return;
        }
        if (in_array($code, self::NOT_BY_HAND, true)) {
            $ledger->refuse(
                'not-by-hand',
                'The server computes this option from the scope',
                'Edit the subnet, the range or the lease time.',
                OptionTable::definition($code)->standard,
                'code',
            );
        }
        if ($values !== [] && $empty) {
            $ledger->refuse('empty-and-values', 'An option that is empty on purpose has no values', field: 'value');
        }
        try {
            $read = $values === [] ? [] : OptionTable::decode($code, OptionTable::encode($code, $values));
        } catch (BadOption $e) {
            $ledger->refuse('bad-option', $e->getMessage(), 'Expected: '.OptionTable::definition($code)->shape->hint().'.', null, 'value');
        }
        self::check($ledger, $scope, $code, $read);
        $row ??= new OptionValue(['layer' => 'scope', 'layer_id' => $scope->id, 'code' => $code]);
        // Sub-options carry their types only as they are written; everything else has one normal form.
        $row->values = in_array($code, self::AS_TYPED, true) || str_starts_with($values[0] ?? '', '0x') ? $values : $read;
        $row->save();
    }

    /** @param  list<string>  $values */
    private static function check(Ledger $ledger, Scope $scope, int $code, array $values): void
    {
        $net = $scope->prefix->prefix();
        if (OptionTable::isFromClients($code)) {
            $ledger->warn(
                'client-only',
                "Option $code is what clients send; no client reads it from a server",
                'Choose another option.',
                OptionTable::definition($code)->standard,
                'code',
            );
        }
        $least = OptionTable::belowLeast($code, $values);
        if ($least !== null) {
            $ledger->warn(
                'below-least',
                "The standard allows option $code from $least on",
                'Clients may refuse it or lose packets.',
                OptionTable::definition($code)->standard,
                'value',
            );
        }
        if ($code === OptionTable::HOST_NAME && $values !== []) {
            $ledger->warn(
                'one-name-for-all',
                'Every client of the scope is given the same name',
                'A reservation gives a name to one client.',
                'RFC 2132 §3.14',
                'value',
            );
        }
        if (
            in_array($code, [OptionTable::DOMAIN, OptionTable::HOST_NAME], true)
                && $values !== []
                && (Name::tryParse($values[0]) === null || HostName::fault(Name::parse($values[0])) !== null)
        ) {
            $ledger->warn(
                'no-domain-name',
                "\"$values[0]\" is no name that hosts may have",
                'Clients may not take it.',
                'RFC 1123 §2.1',
                'value',
            );
        }
        if ($code === 28 && $values !== [] && $values !== [(string) $net->last()]) {
            $ledger->warn(
                'other-broadcast',
                "The broadcast address of $net is {$net->last()}",
                'Clients would send elsewhere.',
                'RFC 2132 §5.3',
                'value',
            );
        }
        if ($code === OptionTable::ROUTER) {
            foreach ($values as $router) {
                if (Address::tryParse($router) !== null && ! $net->contains(Address::parse($router))) {
                    $ledger->warn(
                        'router-off-subnet',
                        "The router $router is not in $net",
                        'Clients cannot reach a router that is not on their link.',
                        'RFC 2132 §3.5',
                        'value',
                    );
                }
            }
            if ($scope->prefix->gateway !== null && ! in_array((string) $scope->prefix->gateway, $values, true)) {
                $ledger->warn(
                    'router-not-gateway',
                    "The gateway of the subnet is {$scope->prefix->gateway}",
                    'The scope sends another router.',
                    null,
                    'value',
                );
            }
        }
        if ($code === OptionTable::ROUTES) {
            $default = array_filter($values, fn (string $v): bool => str_starts_with($v, '0.0.0.0/0 '));
            if ($default === []) {
                $ledger->warn(
                    'routes-without-default',
                    'There is no default route in option 121',
                    'Clients that take 121 ignore option 3, so they lose their default route.',
                    'RFC 3442',
                    'value',
                );
            }
            foreach ($values as $route) {
                $hop = Address::parse(substr($route, (int) strrpos($route, ' ') + 1));
                if (! $net->contains($hop) && (string) $hop !== '0.0.0.0') {
                    $ledger->warn('hop-off-link', "The next hop $hop is not in $net", 'Clients cannot reach it.', 'RFC 3442', 'value');
                }
            }
        }
        if ($code === OptionTable::VENDOR) {
            $ledger->warn(
                'vendor-to-everyone',
                'Option 43 goes to every client of the scope',
                'Devices of another maker may misread it.',
                'RFC 2132 §8.4',
                'value',
            );
        }
    }
}
