<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Wire;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;

/** What is asked: name, type, class (RFC 1035 §4.1.2). */
final readonly class Question implements \Stringable
{
    public function __construct(public Name $name, public RecordType $type, public int $class = Record::IN)
    {
    }

    public function equals(self $other): bool
    {
        return $this->name->equals($other->name) && $this->type->equals($other->type) && $this->class === $other->class;
    }

    public function __toString(): string
    {
        return "$this->name IN $this->type";
    }
}
