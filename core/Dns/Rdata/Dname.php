<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;

/** All names below the owner are found below the target (RFC 6672 §2.1); the name is never compressed. */
final readonly class Dname implements BuiltRdata, PointsAt
{
    use LaidOut;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::DNAME);
    }

    public static function parts(): array
    {
        return [Part::name('target', 'other.example.')];
    }

    public function target(): Name
    {
        $name = $this->values[0];

        return $name instanceof Name ? $name : throw new \LogicException('part 0 is a name');
    }
}
