<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * That somebody may, or may not, see or write one object.
 *
 * @property string $person_id
 * @property string $does  see or write
 * @property string $noun  prefix or zone
 * @property string $object_id
 * @property string $object  as it is called
 * @property bool $expected
 * @property ?bool $found  when it was tried last; null: not tried, or the object is gone
 * @property ?CarbonImmutable $run_at
 * @property-read Person $person
 */
final class RightTest extends Model
{
    protected $table = 'right_tests';

    /** @var array<string, string> */
    protected $casts = ['expected' => 'boolean', 'found' => 'boolean', 'run_at' => 'immutable_datetime'];

    /** A prefix as it is planned, or a zone, by what people write. */
    public static function subject(string $text): Prefix|Zone|null
    {
        $net = Net::tryParse(trim($text));

        return $net === null
            ? Zone::query()->where('name', strtolower(rtrim(trim($text), '.')).'.')->orderBy('view_id')->first()
            : Prefix::query()->where('first', $net->first->bytes)->where('length', $net->length)->where('family', $net->family()->value)
                ->orderBy('groups')->first();
    }

    public function sentence(): string
    {
        return "{$this->person->name} ".($this->expected ? 'may ' : 'may not ')."$this->does $this->object";
    }

    public function hasTurned(): bool
    {
        return $this->found !== null && $this->found !== $this->expected;
    }

    /** @return BelongsTo<Person, $this> */
    public function person(): BelongsTo
    {
        return $this->belongsTo(Person::class);
    }

    public static function noun(): string
    {
        return 'test of rights';
    }

    public function line(): string
    {
        return $this->sentence();
    }
}
