<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

/** What a router says of a link, by which clients know how to come by their addresses (RFC 4861 §4.2, §4.6.2). */
final readonly class Advertisement
{
    /**
     * @param  bool  $managed  addresses are leased by DHCPv6
     * @param  bool  $other  other things are told by DHCPv6; redundant where addresses are leased, and set all the same
     * @param  bool  $autonomous  clients make addresses of their own of the prefix (RFC 4862)
     */
    public function __construct(public bool $managed, public bool $other, public bool $autonomous)
    {
    }

    public static function of(bool $leases, bool $autonomous): self
    {
        // Where nothing is leased, clients without addresses of their own would have none.
        return new self($leases, true, $autonomous || ! $leases);
    }

    /** @return list<string> for people, and for comparing with what a router says */
    public function lines(): array
    {
        return [
            'advertises addresses by DHCPv6 (M) '.self::onOff($this->managed),
            'advertises other things by DHCPv6 (O) '.self::onOff($this->other),
            'advertises addresses of one\'s own (A) '.self::onOff($this->autonomous),
        ];
    }

    /** @return array{managed: bool, other: bool, autonomous: bool} */
    public function form(): array
    {
        return ['managed' => $this->managed, 'other' => $this->other, 'autonomous' => $this->autonomous];
    }

    /** @param  array<mixed>  $form */
    public static function fromForm(array $form): self
    {
        $is = static fn (string $key): bool => ($form[$key] ?? false) === true;

        return new self($is('managed'), $is('other'), $is('autonomous'));
    }

    private static function onOff(bool $on): string
    {
        return $on ? 'on' : 'off';
    }
}
