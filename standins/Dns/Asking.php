<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Asker;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Net\Address;

/** Questions that stand-ins ask each other, and who it was that asked. */
final class Asking
{
    /**
     * @param  list<Record>  $authority  the SOA that is known, for a transfer by steps
     * @param  bool  $signatures  DO; CD with it, for one who judges by itself
     */
    public static function question(
        Name $name,
        RecordType $type,
        Asker $asker,
        bool $recursion = false,
        array $authority = [],
        bool $signatures = false,
        bool $unchecked = false,
    ): Message {
        return new Message(
            random_int(0, 0xFFFF),
            recursionDesired: $recursion,
            checkingDisabled: $unchecked,
            questions: [new Question($name, $type)],
            authority: $authority,
            edns: $asker->edns($signatures),
        );
    }

    /** Who asks, for permissions; loopback when it does not say. */
    public static function source(Message $query): Address
    {
        return Asker::of($query)->source ?? Address::parse('127.0.0.1');
    }

    /** For whom, which decides the view. */
    public static function client(Message $query): Address
    {
        return Asker::of($query)->client ?? self::source($query);
    }
}
