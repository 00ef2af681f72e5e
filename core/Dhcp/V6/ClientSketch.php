<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;

/** A client of DHCPv6 as one describes it, and the messages that it would send. */
final readonly class ClientSketch
{
    /** @param  list<int>  $asked  options; none: it does not say */
    public function __construct(
        public Duid $duid,
        public int $iaid = 1,
        public bool $address = true,
        /** length of the prefix that a router asks for; 0: whatever there is; null: none is asked for */
        public ?int $prefix = null,
        public array $asked = [],
        public string $name = '',
        public bool $rapid = false,
        public ?Address $requested = null,
    ) {
    }

    /** @return list<Association> what it wants leased; none: it asks for options alone */
    public function wishes(): array
    {
        $wishes = [];
        if ($this->address) {
            $hint = $this->requested === null ? [] : [Leased::address($this->requested)];
            $wishes[] = new Association(AssociationKind::Address, $this->iaid, $hint);
        }
        if ($this->prefix !== null) {
            $hint = $this->prefix === 0 ? [] : [new Leased(Prefix::around(Address::parse('::'), $this->prefix))];
            $wishes[] = new Association(AssociationKind::Prefix, $this->iaid, $hint);
        }

        return $wishes;
    }

    /** SOLICIT, or INFORMATION-REQUEST from a client that wants nothing leased. */
    public function first(int $transaction): Message
    {
        $wishes = $this->wishes();

        return $this->message($wishes === [] ? MessageType::InformationRequest : MessageType::Solicit, $transaction, $wishes);
    }

    /** @param  list<Association>  $wishes */
    public function message(MessageType $type, int $transaction, array $wishes, ?string $server = null): Message
    {
        $options = [[Code::CLIENT_ID, $this->duid->bytes], ...$server === null ? [] : [[Code::SERVER_ID, $server]]];
        if ($type === MessageType::Solicit && $this->rapid) {
            $options[] = [Code::RAPID_COMMIT, ''];
        }
        $options[] = [Code::ELAPSED, "\0\0"];
        foreach ($wishes as $wish) {
            $options[] = [$wish->kind->value, $wish->wire()];
        }
        if ($this->asked !== []) {
            $options[] = [Code::REQUESTED, implode('', array_map(static fn (int $code): string => pack('n', $code), $this->asked))];
        }
        if ($this->name !== '') {
            // One label without an end is a name that the server may complete (RFC 4704 §4.2).
            $options[] = [Code::CLIENT_FQDN, "\1".chr(strlen($this->name)).$this->name];
        }

        return new Message($type, $transaction, new OptionList($options));
    }
}
