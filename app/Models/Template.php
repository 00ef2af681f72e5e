<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * How a text is made of an object: in the language of Twig, within bounds.
 *
 * @property string $name
 * @property TemplateOf $of
 * @property string $file_name  as it is downloaded, with {name} for the object's; blank: made of both names
 * @property string $description
 * @property string $body
 * @property ?string $keeper_id  with whose reach kept texts are made again
 * @property-read ?Person $keeper
 */
final class Template extends Model
{
    protected $table = 'templates';

    protected $casts = ['of' => TemplateOf::class];

    /** @return BelongsTo<Person, $this> */
    public function keeper(): BelongsTo
    {
        return $this->belongsTo(Person::class, 'keeper_id');
    }

    /** @return HasMany<MadeText, $this> */
    public function texts(): HasMany
    {
        return $this->hasMany(MadeText::class)->orderBy('title');
    }

    public function fileFor(string $object): string
    {
        $file = $this->file_name === '' ? "$this->name {name}.txt" : $this->file_name;

        return trim((string) preg_replace('/[^\w.-]+/', '-', strtolower(str_replace('{name}', $object, $file))), '-.');
    }

    public static function noun(): string
    {
        return 'template';
    }

    public function line(): string
    {
        return $this->name;
    }
}
