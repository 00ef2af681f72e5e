<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

/** Codes of the options that messages are made of (RFC 8415 §21, RFC 4704 §4, RFC 6939 §4). */
final class Code
{
    public const CLIENT_ID = 1;

    public const SERVER_ID = 2;

    public const IA_NA = 3;

    public const IA_TA = 4;

    public const IA_ADDRESS = 5;

    public const REQUESTED = 6;

    public const PREFERENCE = 7;

    public const ELAPSED = 8;

    public const RELAY_MESSAGE = 9;

    public const STATUS = 13;

    public const RAPID_COMMIT = 14;

    public const USER_CLASS = 15;

    public const VENDOR_CLASS = 16;

    public const INTERFACE_ID = 18;

    public const NAME_SERVERS = 23;

    public const SEARCH = 24;

    public const IA_PD = 25;

    public const IA_PREFIX = 26;

    public const REFRESH = 32;

    public const REMOTE_ID = 37;

    public const CLIENT_FQDN = 39;
}
