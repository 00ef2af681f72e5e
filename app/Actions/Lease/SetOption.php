<?php

declare(strict_types=1);

namespace App\Actions\Lease;

use App\Actions\Action;
use App\Actions\Field;
use App\Actions\Kind;
use App\Actions\Ledger;
use App\Models\OptionValue;
use App\Models\Person;
use App\Models\Scope;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Net\Address;

/** An option of a scope gets a value, or gives it back when the value is blank. */
final readonly class SetOption extends Action
{
    /** Options that a server computes, or that only messages carry. */
    private const NOT_BY_HAND = [1, 50, 51, 52, 53, 54, 55, 57, 58, 59, 61, 82];

    public function __construct(
        #[Field(Kind::Id, 'Scope', of: Scope::class)]
        public string $scope,
        #[Field(Kind::Number, 'Code', most: 254, least: 1)]
        public int $code,
        #[Field(Kind::Text, 'Value', 'One value a line, or separated by commas; blank removes', most: 70000)]
        public string $value = '',
    ) {
    }

    public function title(): string
    {
        return ($this->value === '' ? 'Remove' : 'Set')." option $this->code";
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
        $separator = in_array($this->code, [OptionTable::VENDOR, OptionTable::ROUTES, 12, 15, 56, 60, 66, 67], true) ? '/\R+/' : '/[\s,]+/';
        $values = preg_split($separator, trim($this->value), -1, PREG_SPLIT_NO_EMPTY) ?: [];
        self::write($ledger, $scope, $this->code, $values);
    }

    /** @param  list<string>  $values */
    public static function write(Ledger $ledger, Scope $scope, int $code, array $values): void
    {
        $row = OptionValue::query()->where('layer', 'scope')->where('layer_id', $scope->id)->where('code', $code)->first();
        if ($values === []) {
            $row?->delete();

            return;
        }
        if (in_array($code, self::NOT_BY_HAND, true)) {
            $ledger->refuse('not-by-hand', 'The server computes this option from the scope', 'Edit the subnet, the range or the lease time.', OptionTable::definition($code)->standard, 'code');
        }
        try {
            $payload = OptionTable::encode($code, $values);
            $values = OptionTable::decode($code, $payload);
        } catch (BadOption $e) {
            $ledger->refuse('bad-option', $e->getMessage(), 'Expected: '.($code >= 1 && $code <= 254 ? OptionTable::definition($code)->shape->hint() : 'a code from 1 to 254').'.', null, 'value');
        }
        self::check($ledger, $scope, $code, $values);
        $row ??= new OptionValue(['layer' => 'scope', 'layer_id' => $scope->id, 'code' => $code]);
        $row->values = $values;
        $row->save();
    }

    /** @param  list<string>  $values */
    private static function check(Ledger $ledger, Scope $scope, int $code, array $values): void
    {
        $net = $scope->prefix->prefix();
        if ($code === OptionTable::ROUTER) {
            foreach ($values as $router) {
                if (! $net->contains(Address::parse($router))) {
                    $ledger->warn('router-off-subnet', "The router $router is not in $net", 'Clients cannot reach a router that is not on their link.', 'RFC 2132 §3.5', 'value');
                }
            }
            if ($scope->prefix->gateway !== null && ! in_array((string) $scope->prefix->gateway, $values, true)) {
                $ledger->warn('router-not-gateway', "The gateway of the subnet is {$scope->prefix->gateway}", 'The scope sends another router.', null, 'value');
            }
        }
        if ($code === OptionTable::ROUTES) {
            $default = array_filter($values, fn (string $v): bool => str_starts_with($v, '0.0.0.0/0 '));
            if ($default === []) {
                $ledger->warn('routes-without-default', 'There is no default route in option 121', 'Clients that take 121 ignore option 3, so they lose their default route.', 'RFC 3442', 'value');
            }
            foreach ($values as $route) {
                $hop = Address::parse(substr($route, (int) strrpos($route, ' ') + 1));
                if (! $net->contains($hop) && (string) $hop !== '0.0.0.0') {
                    $ledger->warn('hop-off-link', "The next hop $hop is not in $net", 'Clients cannot reach it.', 'RFC 3442', 'value');
                }
            }
        }
        if ($code === OptionTable::VENDOR) {
            $ledger->warn('vendor-to-everyone', 'Option 43 goes to every client of the scope', 'Devices of another maker may misread it.', 'RFC 2132 §8.4', 'value');
        }
    }
}
