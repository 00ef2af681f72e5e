<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Exchange\V6\Delegation;
use HarborPost\Core\Exchange\V6\Reserved;
use HarborPost\Core\Exchange\V6\Terms;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\Prefix;

/** An IPv6 scope as a server holds it, from the control channel's form. */
final readonly class ScopeV6
{
    /** @param  array<mixed>  $source  the form it came in */
    private function __construct(public string $id, public Terms $terms, public array $source, public ?NamingRule $naming = null)
    {
    }

    /** @param  array<mixed>  $form */
    public static function fromForm(array $form): self
    {
        $texts = static fn (string $key): array => array_values(
            array_filter(is_array($form[$key] ?? null) ? $form[$key] : [], is_string(...)),
        );
        $number = static fn (string $key, int $else): int => is_int($form[$key] ?? null) ? $form[$key] : $else;
        $valid = $number('lease_time', 3600);

        return new self(
            is_string($form['id'] ?? null) ? $form['id'] : '',
            new Terms(
                Prefix::parse(is_string($form['subnet'] ?? null) ? $form['subnet'] : ''),
                array_map(AddressRange::parse(...), $texts('ranges')),
                array_map(AddressRange::parse(...), $texts('exclusions')),
                array_map(Delegation::parse(...), $texts('delegations')),
                self::reserved(is_array($form['reservations'] ?? null) ? $form['reservations'] : []),
                array_filter(self::payloads($form['options'] ?? []), is_string(...)),
                min($valid, $number('preferred', $valid)),
                $valid,
                ($form['rapid'] ?? false) === true,
            ),
            $form,
            NamingRule::fromForm($form['names'] ?? null),
        );
    }

    /**
     * @param  array<mixed>  $rows
     * @return list<Reserved>
     */
    private static function reserved(array $rows): array
    {
        $reserved = [];
        foreach ($rows as $one) {
            $text = static fn (string $key): string => is_array($one) && is_string($one[$key] ?? null) ? $one[$key] : '';
            $client = Duid::tryParse($text('duid'));
            if (! is_array($one) || $client === null || $text('net') === '') {
                continue;
            }
            $net = str_contains($text('net'), '/') ? Prefix::parse($text('net')) : Address::parse($text('net'))->in(128);
            $reserved[] = new Reserved(
                $client,
                is_int($one['iaid'] ?? null) ? $one['iaid'] : null,
                $net,
                self::payloads($one['options'] ?? []),
            );
        }

        return $reserved;
    }

    /** @return array<int, ?string> */
    private static function payloads(mixed $options): array
    {
        $payloads = [];
        foreach (is_array($options) ? $options : [] as $code => $hex) {
            $payloads[(int) $code] = is_string($hex) ? (string) hex2bin($hex) : null;
        }

        return $payloads;
    }
}
