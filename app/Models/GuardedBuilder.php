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
        WriteGate::ledger();

        return parent::update($values);
    }

    public function delete()
    {
        WriteGate::ledger();

        return parent::delete();
    }

    /** @param  array<mixed>  $values */
    public function upsert(array $values, $uniqueBy, $update = null)
    {
        WriteGate::ledger();

        return parent::upsert($values, $uniqueBy, $update);
    }

    /** @param  array<mixed>  $values */
    public function insert(array $values): bool
    {
        WriteGate::ledger();

        return $this->toBase()->insert($values);
    }

    public function increment($column, $amount = 1, array $extra = [])
    {
        WriteGate::ledger();

        return parent::increment($column, $amount, $extra);
    }
}
