<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

/** What is done next with a key. */
enum KeyAct: string
{
    /** a successor is made and put into the zone */
    case Publish = 'publish';

    /** it signs the zone in place of the one before */
    case Activate = 'activate';

    /** the parent is asked to name it, and the one before no more */
    case AskDs = 'ask-ds';

    /** the parent's servers are waited for; nobody here can do it where the parent is somebody else's */
    case SeeDs = 'see-ds';

    /** after its signatures it comes itself: of a new algorithm */
    case Show = 'show';

    /** it leaves the keys, and its signatures stay until no cache has it: of an old algorithm */
    case Withdraw = 'withdraw';

    /** it leaves the zone */
    case Remove = 'remove';

    public function words(): string
    {
        return match ($this) {
            self::Publish => 'make its successor and put it into the zone',
            self::Activate => 'sign the zone with it',
            self::AskDs => 'give its DS to the parent in place of the one before',
            self::SeeDs => 'wait until every server of the parent names it',
            self::Show => 'put it among the keys, after its signatures',
            self::Withdraw => 'take it out of the keys; its signatures stay',
            self::Remove => 'take it out of the zone',
        };
    }
}
