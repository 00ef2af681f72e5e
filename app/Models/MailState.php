<?php

declare(strict_types=1);

namespace App\Models;

/** What has become of a mail. */
enum MailState: string
{
    case Waiting = 'waiting';
    case Sent = 'sent';
    case GivenUp = 'given up';
}
