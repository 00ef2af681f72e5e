<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Net\Address;

/** A message with the relays that it came through, the outermost first (RFC 8415 §9, §19). */
final readonly class Relayed
{
    /** HOP_COUNT_LIMIT (RFC 8415 §7.6). */
    public const MOST_HOPS = 8;

    /** @param  list<Relay>  $relays */
    public function __construct(public array $relays, public Message $message, public bool $reply = false)
    {
    }

    /** By one relay on the client's link. */
    public static function through(Address $link, Address $peer, Message $message, OptionList $options = new OptionList): self
    {
        return new self([new Relay(0, $link, $peer, $options)], $message);
    }

    /** @throws MalformedBytes with the offset in the innermost message that was begun */
    public static function fromWire(string $bytes): self
    {
        $relays = [];
        $reply = false;
        while (in_array(ord($bytes[0] ?? "\0"), [MessageType::RelayForward->value, MessageType::RelayReply->value], true)) {
            if (count($relays) > self::MOST_HOPS) {
                throw MalformedBytes::at(0, sprintf('at most %d relays', self::MOST_HOPS));
            }
            $reader = new ByteReader($bytes);
            $reply = $reader->uint8() === MessageType::RelayReply->value;
            $hops = $reader->uint8();
            [$link, $peer] = [Address::fromBytes($reader->take(16)), Address::fromBytes($reader->take(16))];
            $options = OptionList::fromWire($reader);
            $bytes = $options->first(Code::RELAY_MESSAGE) ?? throw MalformedBytes::at(34, 'a relayed message (option 9)');
            $relays[] = new Relay($hops, $link, $peer, $options->without(Code::RELAY_MESSAGE));
        }

        return new self($relays, Message::fromWire($bytes), $reply);
    }

    public function wire(): string
    {
        $bytes = $this->message->wire();
        foreach (array_reverse($this->relays) as $relay) {
            $bytes = chr(($this->reply ? MessageType::RelayReply : MessageType::RelayForward)->value).chr($relay->hops)
                .$relay->link->bytes.$relay->peer->bytes.$relay->options->with(Code::RELAY_MESSAGE, $bytes)->wire();
        }

        return $bytes;
    }

    /** The answer goes back as it came: same hops, links, peers and interfaces (RFC 8415 §19.3). */
    public function answered(Message $message): self
    {
        return new self(
            array_map(static function (Relay $r): Relay {
                $interface = $r->options->first(Code::INTERFACE_ID);

                return new Relay($r->hops, $r->link, $r->peer,
                    new OptionList($interface === null ? [] : [[Code::INTERFACE_ID, $interface]]));
            }, $this->relays),
            $message,
            true,
        );
    }

    /** The address that tells the client's link: of the innermost relay that says one (RFC 8415 §13.1). */
    public function link(): ?Address
    {
        foreach (array_reverse($this->relays) as $relay) {
            if ((string) $relay->link !== '::') {
                return $relay->link;
            }
        }

        return null;
    }
}
