<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Builder;

/**
 * Statements that write many rows pass the same gate as single models.
 *
 * @template TModel of Model
 *
 * @extends Builder<TModel>
 */
final class GuardedBuilder extends Builder
{
    public function update(array $values)
    {
        WriteGate::books()->mayWriteMany($this->getModel()::class);

        return parent::update($values);
    }

    public function delete()
    {
        WriteGate::books()->mayWriteMany($this->getModel()::class);

        return parent::delete();
    }

    /**
     * @param  array<mixed>  $values
     * @param  array<int, string>|string  $uniqueBy
     * @param  array<mixed>|null  $update
     */
    public function upsert(array $values, $uniqueBy, $update = null)
    {
        WriteGate::books()->mayWriteMany($this->getModel()::class);

        return parent::upsert($values, $uniqueBy, $update);
    }

    /** @param  array<mixed>  $values */
    public function insert(array $values): bool
    {
        WriteGate::books()->mayWriteMany($this->getModel()::class);

        return $this->toBase()->insert($values);
    }

    public function increment($column, $amount = 1, array $extra = [])
    {
        WriteGate::books()->mayWriteMany($this->getModel()::class);

        return parent::increment($column, $amount, $extra);
    }
}
