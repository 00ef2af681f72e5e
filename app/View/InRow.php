<?php

declare(strict_types=1);

namespace App\View;

use App\Queries\Listing;
use Illuminate\Database\Eloquent\Model;

/** Which row of a table is edited where it stands, and the addresses that lead into one, on to the next, and out again. */
final readonly class InRow
{
    /**
     * @param  ?string  $id  of the row that is edited; null: none is
     * @param  array<string, string>  $kept  what the address of the list keeps: its filter, its place
     * @param  array<string, string>  $more  what the address of an edited row has besides
     */
    private function __construct(
        public ?string $id,
        private ?string $then,
        private string $page,
        private array $kept,
        private array $more,
    ) {
    }

    /**
     * @param  iterable<string>  $ids  of the rows that somebody may edit, in the order in which they stand
     * @param  mixed  $edit  the one that was asked for, as it came
     * @param  array<string, mixed>  $kept
     * @param  array<string, string>  $more
     */
    public static function of(iterable $ids, mixed $edit, string $page, array $kept = [], array $more = []): self
    {
        $ids = [...$ids];
        $at = is_string($edit) ? array_search($edit, $ids, true) : false;
        $kept = array_filter($kept, static fn (mixed $v): bool => is_string($v) && $v !== '');

        return new self($at === false ? null : (string) $edit, $at === false ? null : $ids[(int) $at + 1] ?? null, $page, $kept, $more);
    }

    /**
     * Of a list that is read page by page: its filter, its order and its page are kept.
     *
     * @param  Listing<covariant Model>  $list
     */
    public static function ofList(bool $may, Listing $list, string $page, string $filter): self
    {
        return self::of(
            $may ? array_values(array_map(strval(...), $list->rows->modelKeys())) : [],
            request('edit'),
            $page,
            ['filter' => $filter, 'sort' => request('sort'), 'page' => request('page')],
        );
    }

    public function is(string $id): bool
    {
        return $this->id === $id;
    }

    /** The list without fields. */
    public function out(): string
    {
        return $this->address([]);
    }

    public function into(string $id): string
    {
        return $this->address(['edit' => $id] + $this->more);
    }

    /** Where it goes on when the row is written: into the next one, and behind the last one out. */
    public function next(): string
    {
        return $this->then === null ? $this->out() : $this->into($this->then);
    }

    /** @param  array<string, string>  $own */
    private function address(array $own): string
    {
        $query = http_build_query($this->kept + $own);

        return $query === '' ? $this->page : "$this->page?$query";
    }
}
