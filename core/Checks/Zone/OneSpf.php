<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks\Zone;

use HarborPost\Core\Checks\Finding;
use HarborPost\Core\Checks\Severity;
use HarborPost\Core\Checks\ZoneRule;
use HarborPost\Core\Dns\Rdata\Txt;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Zone\Zone;

final class OneSpf implements ZoneRule
{
    public function explanation(): string
    {
        return 'A name has at most one SPF text; two make mail servers give up.';
    }

    public function standard(): string
    {
        return 'RFC 7208 §3.2';
    }

    public function at(Zone $zone, array $records): iterable
    {
        $texts = array_filter(
            $records,
            static fn (Record $r): bool => $r->data instanceof Txt && preg_match('/\\Av=spf1(?: |\\z)/i', $r->data->joined()) === 1,
        );
        if (count($texts) > 1) {
            yield new Finding(
                'spf-twice',
                Severity::Error,
                'two SPF texts at one name',
                $this->standard(),
                $records[0]->owner,
                RecordType::of(RecordType::TXT),
                'join them into one',
            );
        }
    }
}
