<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

/** Where a key is in its life, as RFC 7583 §3.1 names it. */
enum KeyState: string
{
    /** of a new algorithm: signs, and stands among the keys when every cache has its signatures */
    case Ahead = 'ahead';

    /** in the zone, not in every cache yet */
    case Published = 'published';

    /** every cache that has keys has it */
    case Ready = 'ready';

    /** signs; of an entry: the parent names it */
    case Active = 'active';

    /** signs no more, or is named no more; caches still need it */
    case Retired = 'retired';

    /** nothing needs it any more */
    case Dead = 'dead';

    /** gone from the zone */
    case Removed = 'removed';

    public function words(): string
    {
        return match ($this) {
            self::Ahead => 'signs already; its signatures go ahead of it',
            self::Published => 'in the zone, not in every cache yet',
            self::Ready => 'in every cache that has keys',
            self::Active => 'in use',
            self::Retired => 'replaced; caches still need it',
            self::Dead => 'nothing needs it any more',
            self::Removed => 'gone from the zone',
        };
    }
}
