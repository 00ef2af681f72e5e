<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

/** What a DHCPv6 message is (RFC 8415 §7.3; about leases RFC 5007 §4.2.1, RFC 5460 §5.2). */
enum MessageType: int
{
    case Solicit = 1;
    case Advertise = 2;
    case Request = 3;
    case Confirm = 4;
    case Renew = 5;
    case Rebind = 6;
    case Reply = 7;
    case Release = 8;
    case Decline = 9;
    case Reconfigure = 10;
    case InformationRequest = 11;
    case RelayForward = 12;
    case RelayReply = 13;
    case LeaseQuery = 14;
    case LeaseQueryReply = 15;
    case LeaseQueryDone = 16;
    case LeaseQueryData = 17;

    public function label(): string
    {
        return match ($this) {
            self::InformationRequest => 'INFORMATION-REQUEST',
            self::RelayForward => 'RELAY-FORW',
            self::RelayReply => 'RELAY-REPL',
            self::LeaseQueryReply => 'LEASEQUERY-REPLY',
            self::LeaseQueryDone => 'LEASEQUERY-DONE',
            self::LeaseQueryData => 'LEASEQUERY-DATA',
            default => strtoupper($this->name),
        };
    }

    /** Must the client name itself (RFC 8415 §16)? */
    public function needsClient(): bool
    {
        return $this !== self::InformationRequest;
    }

    /** Does the client name the server it speaks to (RFC 8415 §16)? null: it may. */
    public function namesServer(): ?bool
    {
        return match ($this) {
            self::Request, self::Renew, self::Release, self::Decline => true,
            self::InformationRequest => null,
            default => false,
        };
    }
}
