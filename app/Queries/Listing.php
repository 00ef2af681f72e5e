<?php

declare(strict_types=1);

namespace App\Queries;

use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Facades\DB;

/**
 * One page of a list, in the order asked for: the rows, where they stand, and of how many. Counting ends where nobody pages on by hand;
 * what lies behind is reached by a filter.
 *
 * @template TModel of Model
 */
final readonly class Listing
{
    public const ROWS = 100;

    /** Rows that are counted, and reached page by page. */
    private const COUNTED = 20_000;

    /** @param  Collection<int, TModel>  $rows */
    private function __construct(
        public Collection $rows,
        public int $page,
        public int $pages,
        public int $total,
        /** there are more than were counted */
        public bool $more,
        public Order $order,
        private int $size,
    ) {
    }

    /**
     * @template T of Model
     *
     * @param  Builder<T>  $query  without an order
     * @param  array<string, list<string>>  $sorts  what a head is called in the address → columns; the first one where none is asked for.
     *     A column with a tilde in front goes by the value of figures in it: till-2 stands before till-10.
     * @param  string  $sort  one of them, with a hyphen in front from the last to the first
     * @param  string  $key  a column that tells rows apart
     * @return self<T>
     */
    public static function of(Builder $query, array $sorts, string $sort, int $page, string $key, int $size = self::ROWS): self
    {
        $order = Order::of($sorts, $sort);
        $way = $order->down ? 'desc' : 'asc';
        $total = DB::query()->fromSub((clone $query)->reorder()->select($key)->limit(self::COUNTED + 1), 'counted')->count();
        $more = $total > self::COUNTED;
        $total = min($total, self::COUNTED);
        $pages = max(1, intdiv($total + $size - 1, $size));
        $page = max(1, min($page, $pages));
        $ordered = clone $query;
        foreach ([...$sorts[$order->by], $key] as $column) {
            $name = ltrim($column, '~');
            // Where nobody counts any more, the index decides.
            $name === $column || $more
                ? $ordered->orderBy($name, $way)
                : $ordered->orderByRaw("NATURAL_SORT_KEY($name) $way");
        }

        return new self($ordered->offset(($page - 1) * $size)->limit($size)->get(), $page, $pages, $total, $more, $order, $size);
    }

    /** @return int the place of the first row that is shown, from 1 */
    public function from(): int
    {
        return $this->total === 0 ? 0 : ($this->page - 1) * $this->size + 1;
    }

    public function to(): int
    {
        return $this->total === 0 ? 0 : $this->from() + $this->rows->count() - 1;
    }
}
