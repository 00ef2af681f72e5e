<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Database\Bulk;
use App\Database\Words;
use App\Models\Books;
use App\Models\Model;
use App\Models\Person;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Str;

/** What one act writes and finds while it runs: the source of What follows and of history. */
final class Ledger implements Books
{
    /** @var list<Written> */
    public array $written = [];

    /** @var list<Note> */
    public array $notes = [];

    /** @var list<array{string, list<string>}> lines that are not rows of their own: what happens later, to whom */
    public array $later = [];

    /** @var array<string, mixed> what the caller may want to know: ids of objects made */
    public array $made = [];

    /** @var list<int> lines of zones' journals that the act wrote */
    public array $journal = [];

    /** @var array<string, int> row → its version after the act */
    private array $raised = [];

    /** So many rows written in bulk are listed like any others; more are counted. */
    public const LISTED = 500;

    /** Rows written in bulk that are counted, and not listed one by one. */
    public int $bulk = 0;

    /** @var array<string, array{add: int, cut: int, within: array<string, true>}> noun → how many of these, and where they belong */
    public array $many = [];

    /** @var array<string, array<string, true>> server, or '' for all that have them → scopes served otherwise, no row of theirs written */
    public array $reached = [];

    public readonly string $actId;

    public string $action = '';

    /** by which program and request the act came; null from a page, the console or a job */
    public ?string $via = null;

    public function __construct(
        public readonly ?Person $person,
        /** the time of the act, the same for everything in it */
        public readonly \DateTimeImmutable $at,
        /** a warning was seen and the act is wanted all the same, for this reason */
        public readonly ?string $reason = null,
        ?string $actId = null,
    ) {
        $this->actId = $actId ?? (string) Str::ulid();
    }

    public function journalled(int $id): void
    {
        $this->journal[] = $id;
    }

    public function personId(): ?string
    {
        return $this->person?->id;
    }

    public function mayWrite(Model $row, ?array $before, bool $removed = false): void
    {
        if ($this->person !== null && ! RowRights::allow($this->person, $row, $before, $removed)) {
            $this->refuse(
                'row-not-yours',
                'Not available to you: this would write '.$row->called(),
                'Your rights do not reach it. A steward can change that.',
            );
        }
    }

    public function mayWriteMany(string $class): void
    {
        if ($this->person !== null && ! RowRights::allowMany($this->person)) {
            $this->refuse(
                'row-not-yours',
                'Not available to you',
                'Your rights do not reach all that this would write. A steward can change that.',
            );
        }
    }

    public function passed(string $code, string $message, ?string $standard = null): void
    {
        foreach ($this->notes as $note) {
            if ($note->code === $code && $note->message === $message) {
                return;
            }
        }
        $this->notes[] = new Note(NoteVerdict::Passed, $code, $message, '', $standard);
    }

    public function warn(
        string $code,
        string $message,
        string $why = '',
        ?string $standard = null,
        ?string $field = null,
        ?string $link = null,
    ): void {
        $this->notes[] = new Note(NoteVerdict::Warned, $code, $message, $why, $standard, $field, $link);
    }

    /** Ends the act: nothing of it is written. */
    public function refuse(
        string $code,
        string $message,
        string $why = '',
        ?string $standard = null,
        ?string $field = null,
        ?string $link = null,
        ?string $offer = null,
    ): never {
        $note = new Note(NoteVerdict::Blocked, $code, $message, $why, $standard, $field, $link, $offer);
        $this->notes[] = $note;
        throw new Refused($note);
    }

    /** Something that follows later and is not a row: a client that renews, a cache that forgets. */
    public function later(string $line): void
    {
        $this->later[] = [$line, []];
    }

    /**
     * Scopes are served otherwise from now on, at one server or at all that have them, though no row of theirs is written.
     *
     * @param  list<string>  $scopes
     */
    public function reaches(array $scopes, string $server = ''): void
    {
        $this->reached[$server] = ($this->reached[$server] ?? []) + array_fill_keys($scopes, true);
    }

    /**
     * @internal called by the models
     *
     * @param  array<string, mixed>|null  $before  raw columns: changed ones, or all of a removed row
     */
    public function wrote(Model $model, ?array $before, bool $removed = false): void
    {
        if (! $removed && $model->versioned()) {
            $this->raised[(string) $model->getKey()] = (int) $model->version;
        }
        $after = $removed
            ? null
            : $model->readable($before === null ? $model->getAttributes() : array_intersect_key($model->getAttributes(), $before));
        $was = $before === null ? null : $model->readable($before);
        if ($was === [] || $was !== null && $after === []) {
            return;
        }
        $version = $before['version'] ?? null;
        $this->written[] = new Written(
            $before === null ? 'add' : ($removed ? 'cut' : 'turn'), $model::noun(), (string) $model->getKey(), $model->line(), $was, $after,
            is_numeric($version) ? (int) $version : null,
            $removed || ! $model->versioned() ? null : (int) $model->version,
            self::within($model),
        );
    }

    /**
     * Inserts many rows of one kind with their history, for imports.
     *
     * @param  class-string<Model>  $class
     * @param  list<array<string, mixed>>  $rows  complete rows, with id
     */
    public function bulk(string $class, array $rows): void
    {
        foreach (array_chunk($rows, 500) as $chunk) {
            $class::query()->insert($chunk);
            $this->several('add', array_map(static function (array $row) use ($class): Written {
                $model = (new $class)->setRawAttributes($row);
                $version = $model->versioned() ? 1 : null;

                return new Written(
                    'add',
                    $class::noun(),
                    is_string($row['id']) ? $row['id'] : '',
                    $model->line(),
                    null,
                    $model->readable($row),
                    null,
                    $version,
                    self::within($model),
                );
            }, $chunk));
        }
    }

    /**
     * Removes many rows of one kind; history keeps each as it was.
     *
     * @param  Builder<covariant Model>  $query
     */
    public function bulkCut(Builder $query): void
    {
        (clone $query)->chunkById(500, fn (Collection $models) => $this->several('cut', array_values($models->map(
            static fn (Model $m): Written => new Written(
                'cut',
                $m::noun(),
                (string) $m->getKey(),
                $m->line(),
                $m->readable($m->getAttributes()),
                null,
                $m->versioned() ? (int) $m->version : null,
                null,
                self::within($m),
            ),
        )->all())));
        $query->delete();
    }

    /** @return int rows written, listed or only counted */
    public function rows(): int
    {
        return count($this->written) + $this->bulk;
    }

    /**
     * @param  'add'|'cut'  $op
     * @param  list<Written>  $rows  of one kind
     */
    private function several(string $op, array $rows): void
    {
        if (count($this->written) + count($rows) <= self::LISTED && $this->bulk === 0) {
            array_push($this->written, ...$rows);

            return;
        }
        self::keepWords($rows);
        Bulk::insert('history', array_map($this->historyRow(...), $rows));
        $this->bulk += count($rows);
        foreach ($rows as $row) {
            $this->many[$row->noun] ??= ['add' => 0, 'cut' => 0, 'within' => []];
            $this->many[$row->noun][$op]++;
            if ($row->within !== null) {
                $this->many[$row->noun]['within'][$row->within] = true;
            }
        }
    }

    public function flushHistory(): void
    {
        self::keepWords($this->written);
        $rows = array_map($this->historyRow(...), $this->written);
        Bulk::insert('history', $rows);
    }

    /** @param  list<Written>  $written */
    private static function keepWords(array $written): void
    {
        $new = $touched = [];
        foreach ($written as $one) {
            if ($one->op === 'add' && isset(Words::NOUNS[$one->noun])) {
                $new[$one->noun][$one->id] = $one->after ?? [];
            } elseif ($one->op === 'cut' && isset(Words::NOUNS[$one->noun]) || Words::touches($one->noun, $one->after ?? [])) {
                $touched[$one->noun][$one->id] = true;
            }
        }
        foreach ($touched as $noun => $ids) {
            Words::renew($noun, array_map(strval(...), array_keys($ids)));
        }
        foreach ($new as $noun => $rows) {
            // What was made and changed in one go is read already.
            Words::add($noun, array_diff_key($rows, $touched[$noun] ?? []));
        }
    }

    private static function within(Model $model): ?string
    {
        $column = $model::withinColumn();
        $id = $column === null ? null : $model->getAttribute($column);

        return is_string($id) && $id !== '' ? $id : null;
    }

    /** @return array<string, mixed> */
    private function historyRow(Written $w): array
    {
        $json = static fn (?array $values): ?string => $values === null
            ? null
            : json_encode($values, JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE);

        return [
            'act_id' => $this->actId, 'at' => $this->at->format('Y-m-d H:i:s.v'), 'person_id' => $this->person?->id,
            'action' => $this->action,
            'object_type' => $w->noun, 'object_id' => $w->id, 'title' => mb_strimwidth($w->line, 0, 250, '…'),
            'before' => $json($w->before), 'after' => $json($w->after),
            'reason' => $this->reason === null ? null : mb_strimwidth($this->reason, 0, 250, '…'),
            'version' => $w->versionAfter,
            'within_id' => $w->within,
            'via' => $this->via,
            'within_version' => $w->within === null ? null : $this->raised[$w->within] ?? null,
        ];
    }
}
