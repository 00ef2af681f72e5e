<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Dns\Rdata\Aaaa;
use HarborPost\Core\Dns\Rdata\Dhcid;
use HarborPost\Core\Dns\Rdata\Ptr;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Zone\UpdateRequest;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;

/** What a lease server writes when it gives and ends a lease, so that no client takes the name of another, or of a person (RFC 4703 §5). */
final readonly class NameUpdates
{
    /** @param  string  $identity  data of the DHCID record */
    public function __construct(private Name $name, private Address $address, private string $identity, private int $ttl)
    {
    }

    /** The name is nobody's: it becomes this client's (RFC 4703 §5.3.1). */
    public function take(Name $zone): UpdateRequest
    {
        return new UpdateRequest(
            $zone,
            [UpdateRequest::none($this->name, RecordType::of(RecordType::ANY))],
            [$this->addressRecord(), $this->identityRecord($this->ttl)],
        );
    }

    /** The name is this client's: it follows it to the new address (RFC 4703 §5.3.2). */
    public function move(Name $zone): UpdateRequest
    {
        return new UpdateRequest(
            $zone,
            [$this->identityRecord(0)],
            [UpdateRequest::whole($this->name, RecordType::of($this->addressType())), $this->addressRecord()],
        );
    }

    /** The address points at the name, whatever it pointed at (RFC 4703 §5.4). */
    public function point(Name $zone): UpdateRequest
    {
        return new UpdateRequest(
            $zone,
            [],
            [UpdateRequest::whole($this->pointer($zone), RecordType::of(RecordType::PTR)),
                new Record($this->pointer($zone), $this->ttl, new Ptr($this->name))],
        );
    }

    /** The lease is over: the address goes from the client's name, and from no other's (RFC 4703 §5.5). */
    public function withdraw(Name $zone): UpdateRequest
    {
        return new UpdateRequest($zone, [$this->identityRecord(0)], [UpdateRequest::less($this->addressRecord())]);
    }

    /** With its last address the name is nobody's again. */
    public function leave(Name $zone): UpdateRequest
    {
        return new UpdateRequest(
            $zone,
            [
                $this->identityRecord(0),
                UpdateRequest::none($this->name, RecordType::of(RecordType::A)),
                UpdateRequest::none($this->name, RecordType::of(RecordType::AAAA)),
            ],
            [UpdateRequest::whole($this->name, RecordType::of(RecordType::DHCID))],
        );
    }

    public function unpoint(Name $zone): UpdateRequest
    {
        $pointer = new Record($this->pointer($zone), 0, new Ptr($this->name));

        return new UpdateRequest($zone, [$pointer], [UpdateRequest::less($pointer)]);
    }

    /** What a refusal of {@see move()} means: the name is a person's or another client's. */
    public static function isConflict(Rcode $rcode): bool
    {
        return in_array($rcode, [Rcode::NxRrset, Rcode::YxDomain, Rcode::YxRrset], true);
    }

    /** Also below a child zone by RFC 2317, where it has another name than in the reverse tree. */
    private function pointer(Name $zone): Name
    {
        return ReverseName::inZone($this->address, $zone);
    }

    private function addressRecord(): Record
    {
        return new Record(
            $this->name,
            $this->ttl,
            $this->address->family === Family::V4 ? A::of($this->address) : Aaaa::of($this->address),
        );
    }

    /** A client has one name and may have addresses of both families: each lease writes its own. */
    private function addressType(): int
    {
        return $this->address->family === Family::V4 ? RecordType::A : RecordType::AAAA;
    }

    private function identityRecord(int $ttl): Record
    {
        return new Record($this->name, $ttl, Dhcid::fromWire(new ByteReader($this->identity)));
    }
}
