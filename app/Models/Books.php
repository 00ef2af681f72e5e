<?php

declare(strict_types=1);

namespace App\Models;

/** Who keeps account of what an act writes, and is asked for each row whether the person may. */
interface Books
{
    /**
     * Asked before a row is written; ends the act when the person may not.
     *
     * @param  array<string, mixed>|null  $before  raw columns as they were read; null for a new row
     */
    public function mayWrite(Model $row, ?array $before, bool $removed = false): void;

    /** Asked before a statement that writes many rows of a kind without reading them. */
    public function mayWriteMany(string $class): void;

    /** @param  array<string, mixed>|null  $before  raw columns: changed ones, or all of a removed row */
    public function wrote(Model $model, ?array $before, bool $removed = false): void;

    /** A line of a zone's journal was written, with this id. */
    public function journalled(int $id): void;

    /** Whose act it is; null for the application's own. */
    public function personId(): ?string;
}
