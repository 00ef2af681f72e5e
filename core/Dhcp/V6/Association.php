<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;

/** An identity association: what one interface, or one requesting router, has or wants (RFC 8415 §21.4, §21.5, §21.21). */
final readonly class Association
{
    /** @param  list<Leased>  $leases */
    public function __construct(
        public AssociationKind $kind,
        public int $iaid,
        public array $leases = [],
        public int $t1 = 0,
        public int $t2 = 0,
        public ?StatusCode $status = null,
    ) {
    }

    /** @throws MalformedBytes */
    public static function fromWire(AssociationKind $kind, string $payload): self
    {
        $reader = new ByteReader($payload);
        $iaid = $reader->uint32();
        [$t1, $t2] = $kind === AssociationKind::Temporary ? [0, 0] : [$reader->uint32(), $reader->uint32()];
        $options = OptionList::fromWire($reader);
        $code = $kind === AssociationKind::Prefix ? Code::IA_PREFIX : Code::IA_ADDRESS;

        return new self(
            $kind,
            $iaid,
            array_map(static fn (string $p): Leased => self::lease($kind, $p), $options->each($code)),
            $t1,
            $t2,
            StatusCode::of($options->first(Code::STATUS)),
        );
    }

    public function wire(): string
    {
        $options = new OptionList;
        $prefix = $this->kind === AssociationKind::Prefix;
        foreach ($this->leases as $lease) {
            $options = $options->with(
                $prefix ? Code::IA_PREFIX : Code::IA_ADDRESS,
                ($prefix
                    ? pack('NNC', $lease->preferred, $lease->valid, $lease->net->length).$lease->net->first->bytes
                    : $lease->net->first->bytes.pack('NN', $lease->preferred, $lease->valid))
                    .($lease->status === null ? '' : (new OptionList([[Code::STATUS, $lease->status->with()]]))->wire()),
            );
        }
        $options = $this->status === null ? $options : $options->with(Code::STATUS, $this->status->with(self::words($this->status)));

        return pack('N', $this->iaid).($this->kind === AssociationKind::Temporary ? '' : pack('NN', $this->t1, $this->t2)).$options->wire();
    }

    /** Who has it: the client, the kind and the number that the client gave it. */
    public function key(Duid $client): string
    {
        return bin2hex($client->bytes).'/'.$this->kind->label().'/'.$this->iaid;
    }

    private static function words(StatusCode $status): string
    {
        return match ($status) {
            StatusCode::NoAddrsAvail => 'no address is left on this link',
            StatusCode::NoPrefixAvail => 'no prefix is left to delegate',
            StatusCode::NoBinding => 'nothing is leased to this client under this number',
            StatusCode::NotOnLink => 'an address is not of this link',
            default => '',
        };
    }

    /** @throws MalformedBytes */
    private static function lease(AssociationKind $kind, string $payload): Leased
    {
        $reader = new ByteReader($payload);
        if ($kind === AssociationKind::Prefix) {
            [$preferred, $valid, $length] = [$reader->uint32(), $reader->uint32(), $reader->uint8()];
            if ($length > 128) {
                throw MalformedBytes::at(8, "a prefix length up to 128, not $length");
            }
            $net = Prefix::around(Address::fromBytes($reader->take(16)), $length);
        } else {
            $net = Address::fromBytes($reader->take(16))->in(128);
            [$preferred, $valid] = [$reader->uint32(), $reader->uint32()];
        }

        return new Leased($net, $preferred, $valid, StatusCode::of(OptionList::fromWire($reader)->first(Code::STATUS)));
    }
}
