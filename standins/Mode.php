<?php

declare(strict_types=1);

namespace HarborPost\Standins;

/** How a stand-in behaves; anything but Normal is for trying what Harbor Post does then. */
enum Mode: string
{
    case Normal = 'normal';
    /** every answer comes after a second and a half */
    case Slow = 'slow';
    /** takes packets and never answers */
    case Silent = 'silent';
    /** answers that it will not */
    case Refusing = 'refusing';
    /** answers something that is not so */
    case Wrong = 'wrong';

    public const DELAY = 1.5;
}
