<?php

declare(strict_types=1);

namespace App\Models;

/**
 * What a team notes for its templates, at one layer.
 *
 * @property DataLayer $layer
 * @property string $at  a site's id, a role or a tag
 * @property string $text  YAML, of which JSON is a part
 */
final class TemplateData extends Model
{
    protected $table = 'template_data';

    protected $casts = ['layer' => DataLayer::class];

    /** What the place is called. */
    public function place(): string
    {
        return match ($this->layer) {
            DataLayer::Organisation => 'Organisation',
            DataLayer::Site => Site::query()->find($this->at)->name ?? 'a site that is gone',
            default => "{$this->layer->value} $this->at",
        };
    }

    public static function noun(): string
    {
        return 'data for templates';
    }

    public function line(): string
    {
        return "data for templates, {$this->place()}";
    }
}
