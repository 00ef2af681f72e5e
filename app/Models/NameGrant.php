<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Dns\RecordType;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * Somebody may edit the records of a zone, or those of one name in it.
 *
 * @property string $person_id
 * @property string $zone_id
 * @property ?string $owner  absolute, lower case; null for the whole zone
 * @property bool $below  and everything under the name
 * @property ?int $type  of the records; null for every type
 * @property-read Person $person
 * @property-read Zone $zone
 */
final class NameGrant extends Model
{
    protected $table = 'name_grants';

    protected $casts = ['below' => 'boolean'];

    /** @return BelongsTo<Person, $this> */
    public function person(): BelongsTo
    {
        return $this->belongsTo(Person::class);
    }

    /** @return BelongsTo<Zone, $this> */
    public function zone(): BelongsTo
    {
        return $this->belongsTo(Zone::class);
    }

    public static function noun(): string
    {
        return 'right on names';
    }

    public function line(): string
    {
        return $this->person->name
            .' edits '
            .($this->type === null ? '' : RecordType::of($this->type).' at ')
            .(
                $this->owner === null
                    ? "all of {$this->zone->title()}"
                    : rtrim($this->owner, '.').($this->below ? ' and what is below it' : '')
            );
    }
}
