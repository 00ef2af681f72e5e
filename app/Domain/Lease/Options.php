<?php

declare(strict_types=1);

namespace App\Domain\Lease;

use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\OptionValue;
use App\Queries\OwnOptions;
use HarborPost\Core\Checks\HostName;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionLayer;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\Prefix as Net;

/** An option's value in its layer: written as typed, checked against what stands there, and given back when it is blank. */
final class Options
{
    /** Options that a server computes, or that only messages carry. */
    private const NOT_BY_HAND = [
        4 => [1, 50, 51, 52, 53, 54, 55, 57, 58, 59, 61, 80, 82, 90, 91, 92, 118, 151, 152, 153, 154, 155, 156, 157],
        6 => [1, 2, 3, 4, 5, 6, 8, 9, 11, 12, 13, 14, 18, 19, 20, 25, 26, 37, 38, 39, 43, 44, 45, 46, 47, 48, 53, 66],
    ];

    /** Options whose bytes do not tell how they were written. */
    private const AS_TYPED = [4 => [OptionTable::VENDOR, 125], 6 => [17, 54, 55, 56]];

    /** Options that are settings of these layers: one value, one place. */
    private const SETTINGS = [4 => [OptionTable::NAME_SERVERS, OptionTable::DOMAIN, OptionTable::SEARCH],
        6 => [Code::NAME_SERVERS, Code::SEARCH]];

    /**
     * @param  list<string>  $values  as typed: they are kept so, and encoded when they are sent
     * @param  bool  $empty  no values on purpose: hides those of outer layers
     */
    public static function write(
        Ledger $ledger,
        OptionPlace $place,
        int $code,
        array $values,
        bool $empty = false,
        Family $family = Family::V4,
    ): void {
        Guard::own("option:{$place->layer->value}:$place->id:$family->value:$code");
        $row = OptionValue::query()->where('layer', $place->layer->value)->where('layer_id', $place->id)
            ->where('family', $family)->where('code', $code)->first();
        if ($values === [] && ! $empty) {
            $row?->delete();

            return;
        }
        self::refuseWrongPlace($ledger, $place, $code, $family);
        if ($values !== [] && $empty) {
            $ledger->refuse('empty-and-values', 'An option that is empty on purpose has no values', field: 'value');
        }
        try {
            $read = $values === [] ? [] : OptionTable::decode($code, OptionTable::encode($code, $values, $family), $family);
        } catch (BadOption $e) {
            $hint = OwnOptions::now()->definition($code, $family)->shape->hint();
            $ledger->refuse('bad-option', $e->getMessage(), "Expected: $hint.", null, 'value');
        }
        self::checkValue($ledger, $place, $code, $read, $family);
        if ($family === Family::V4) {
            self::checkOfV4($ledger, $place, $code, $read);
            self::checkPlace($ledger, $place, $code, $read);
        }
        $row ??= new OptionValue(['layer' => $place->layer->value, 'layer_id' => $place->id, 'family' => $family, 'code' => $code]);
        // Sub-options carry their types only as they are written; everything else has one normal form.
        $row->values = in_array($code, self::AS_TYPED[$family->value], true) || str_starts_with($values[0] ?? '', '0x') ? $values : $read;
        $row->save();
    }

    /** Is the option computed by servers, or part of messages alone? */
    public static function isNotByHand(int $code, Family $family): bool
    {
        return in_array($code, self::NOT_BY_HAND[$family->value], true);
    }

    private static function refuseWrongPlace(Ledger $ledger, OptionPlace $place, int $code, Family $family): void
    {
        if (self::isNotByHand($code, $family)) {
            $ledger->refuse(
                'not-by-hand',
                'The server computes this option from the scope',
                'Edit the subnet, the range or the lease time.',
                OptionTable::definition($code, $family)->standard,
                'code',
            );
        }
        if (in_array($place->layer, [OptionLayer::Organisation, OptionLayer::Site], true)
            && in_array($code, self::SETTINGS[$family->value], true)) {
            $ledger->refuse(
                'is-a-setting',
                'Resolvers, domain and search suffixes are settings of '.$place->words(),
                'They are set once, for zones and hosts too, and become this option by themselves.',
                null,
                'code',
                $place->layer === OptionLayer::Site ? at('directory.site', $place->id) : at('directory.settings'),
            );
        }
        if (
            in_array($place->layer, [OptionLayer::Organisation, OptionLayer::Server, OptionLayer::Site], true)
                && $family === Family::V4 && $code === OptionTable::ROUTER
        ) {
            $ledger->refuse(
                'router-of-one-link',
                'A router belongs to one link; '.$place->words().' reaches many',
                'Set it in the scope, or give the subnet its gateway.',
                'RFC 2132 §3.5',
                'code',
            );
        }
    }

    /** @param  list<string>  $values */
    private static function checkValue(Ledger $ledger, OptionPlace $place, int $code, array $values, Family $family): void
    {
        $standard = OptionTable::definition($code, $family)->standard;
        if (OptionTable::isFromClients($code, $family)) {
            $ledger->warn(
                'client-only',
                "Option $code is what clients send; no client reads it from a server",
                'Choose another option.',
                $standard,
                'code',
            );
        }
        $least = OptionTable::belowLeast($code, $values, $family);
        if ($least !== null) {
            $ledger->warn(
                'below-least',
                "The standard allows option $code from $least on",
                'Clients may refuse it or lose packets.',
                $standard,
                'value',
            );
        }
    }

    /** @param  list<string>  $values */
    private static function checkOfV4(Ledger $ledger, OptionPlace $place, int $code, array $values): void
    {
        if ($values === []) {
            return;
        }
        if ($code === OptionTable::HOST_NAME && $place->layer !== OptionLayer::Reservation) {
            $ledger->warn(
                'one-name-for-all',
                'Every client of '.$place->words().' is given the same name',
                'A reservation gives a name to one client.',
                'RFC 2132 §3.14',
                'value',
            );
        }
        if (
            in_array($code, [OptionTable::DOMAIN, OptionTable::HOST_NAME], true)
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
        if ($code === OptionTable::VENDOR && ! in_array($place->layer, [OptionLayer::ClientClass, OptionLayer::Reservation], true)) {
            $ledger->warn(
                'vendor-to-everyone',
                'Option 43 goes to every client of '.$place->words(),
                'Devices of another maker may misread it. Set it in a class of the maker\'s clients.',
                'RFC 2132 §8.4',
                'value',
            );
        }
        if (
            $code === OptionTable::ROUTES
                && array_filter($values, static fn (string $v): bool => str_starts_with($v, '0.0.0.0/0 ')) === []
        ) {
            $ledger->warn(
                'routes-without-default',
                'There is no default route in option 121',
                'Clients that take 121 ignore option 3, so they lose their default route.',
                'RFC 3442',
                'value',
            );
        }
    }

    /**
     * What depends on the link: asked only where there is one.
     *
     * @param  list<string>  $values
     */
    private static function checkPlace(Ledger $ledger, OptionPlace $place, int $code, array $values): void
    {
        $net = $place->net();
        if ($net === null || $place->scope === null || $values === []) {
            return;
        }
        if ($code === 28 && $values !== [(string) $net->last()]) {
            $ledger->warn(
                'other-broadcast',
                "The broadcast address of $net is {$net->last()}",
                'Clients would send elsewhere.',
                'RFC 2132 §5.3',
                'value',
            );
        }
        if ($code === OptionTable::ROUTER) {
            self::checkRouters($ledger, $net, $place->scope->prefix->gateway, $values);
        }
        foreach ($code === OptionTable::ROUTES ? $values : [] as $route) {
            $hop = Address::tryParse(substr($route, (int) strrpos($route, ' ') + 1));
            if ($hop !== null && ! $net->contains($hop) && (string) $hop !== '0.0.0.0') {
                $ledger->warn('hop-off-link', "The next hop $hop is not in $net", 'Clients cannot reach it.', 'RFC 3442', 'value');
            }
        }
    }

    /** @param  list<string>  $routers */
    private static function checkRouters(Ledger $ledger, Net $net, ?Address $gateway, array $routers): void
    {
        foreach ($routers as $router) {
            $address = Address::tryParse($router);
            if ($address !== null && ! $net->contains($address)) {
                $ledger->warn(
                    'router-off-subnet',
                    "The router $router is not in $net",
                    'Clients cannot reach a router that is not on their link.',
                    'RFC 2132 §3.5',
                    'value',
                );
            }
        }
        if ($gateway !== null && ! in_array((string) $gateway, $routers, true)) {
            $ledger->warn('router-not-gateway', "The gateway of the subnet is $gateway", 'The scope sends another router.', null, 'value');
        }
    }

    /** The values of what goes, so that no option stays without its place. */
    public static function removeOf(OptionLayer $layer, string $id): void
    {
        OptionValue::query()->where('layer', $layer->value)->where('layer_id', $id)->get()->each->delete();
    }
}
