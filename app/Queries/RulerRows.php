<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Prefix;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Database\Eloquent\Collection;

/** What a supernet, or a part of it, is drawn from: its prefixes that the person may see, and its open blocks. */
final readonly class RulerRows
{
    /** Up to so many children are read one by one; beyond, only those large enough to be seen. */
    private const READ = 3000;

    /**
     * @param  Collection<int, Prefix>  $children
     * @param  list<Net>  $open
     */
    private function __construct(
        public Prefix $parent,
        public Net $range,
        public Collection $children,
        public array $open,
        public bool $many,
    ) {
    }

    /** @param  ?Net  $zoom  the part that is looked at, the whole where it is none of it */
    public static function of(Prefix $parent, Reach $reach, ?Net $zoom = null): self
    {
        $range = $zoom !== null && $parent->prefix()->contains($zoom) ? $zoom : $parent->prefix();
        $finest = $range->length + 8;
        $many = $parent->children > self::READ;
        $children = $reach->prefixes()->where('parent_id', $parent->id)->where('family', $parent->family)
            ->whereBetween('first', [$range->first->bytes, $range->last()->bytes])
            ->when($many, fn ($q) => $q->where('length', '<=', $finest))->orderBy('first')->limit(self::READ)->get();

        return new self($parent, $range, $children, OpenBlocks::within($parent, $range, $many ? $finest : 128, self::READ), $many);
    }
}
