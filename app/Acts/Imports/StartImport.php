<?php

declare(strict_types=1);

namespace App\Acts\Imports;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Import;
use App\Models\ImportState;
use App\Models\Person;
use App\Models\Role;
use App\Models\Space;
use App\Models\Zone;
use Carbon\CarbonImmutable;

/** A file is taken in to be read: nothing of it is true yet. */
final readonly class StartImport extends Act
{
    public function __construct(
        #[Field(Kind::Choice, 'Kind', choices: ['plan', 'zone'])]
        public string $kind,
        #[Field(Kind::Line, 'Taken into', most: 26)]
        public string $target,
        #[Field(Kind::Line, 'File', most: 1000)]
        public string $fileName,
        #[Field(Kind::Line, 'Path', most: 4000)]
        public string $path,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
    ) {
    }

    public function title(): string
    {
        return "Read $this->fileName";
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function apply(Ledger $ledger): void
    {
        if ($this->kind === 'plan' && $ledger->person?->does(Role::Planner) === false) {
            $ledger->refuse('not-allowed', 'Not available to you', 'Planners take plans in.');
        }
        $there = $this->kind === 'plan'
            ? Space::query()->whereKey($this->target)->exists()
            : ($this->kind === 'zone' && Zone::query()->whereKey($this->target)->exists());
        if (! $there) {
            $ledger->refuse(
                'no-target',
                $this->kind === 'plan' ? 'Choose the space that the plan belongs to' : 'Choose the zone that the file is for',
                field: 'target',
            );
        }
        $bytes = is_file($this->path) ? (int) filesize($this->path) : 0;
        if ($bytes === 0) {
            $ledger->refuse('empty-file', "\"$this->fileName\" is empty or cannot be read", field: 'file');
        }
        (new Import([
            'id' => $this->id, 'person_id' => $ledger->person?->id, 'kind' => $this->kind, 'target_id' => $this->target,
            'file_name' => mb_strimwidth($this->fileName, 0, 200), 'path' => $this->path,
            'state' => ImportState::Reading, 'bytes' => $bytes, 'counts' => [], 'started_at' => CarbonImmutable::instance($ledger->at),
        ]))->save();
    }
}
