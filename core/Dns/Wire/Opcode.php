<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Wire;

/** What a message asks for (RFC 1035 §4.1.1, RFC 1996, RFC 2136). */
enum Opcode: int
{
    case Query = 0;
    case InverseQuery = 1;
    case Status = 2;
    case Notify = 4;
    case Update = 5;
}
