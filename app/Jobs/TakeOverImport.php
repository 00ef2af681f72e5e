<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Acts\Engine\Acts;
use App\Acts\Imports\MarkImport;
use App\Acts\Imports\TakeOver;
use App\Models\Import;
use App\Models\ImportState;
use App\Models\Person;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Queue\InteractsWithQueue;

/** Makes a judged import true as a whole. Killed midway, nothing of it is written and it can be run again. */
final class TakeOverImport implements ShouldQueue
{
    use Dispatchable, InteractsWithQueue, Queueable;

    public int $timeout = 3600;

    public int $tries = 5;

    public function __construct(public readonly string $import, public readonly ?string $person, public readonly bool $removals = false)
    {
    }

    public function handle(Acts $acts): void
    {
        if (Import::query()->whereKey($this->import)->value('state') !== ImportState::Taking) {
            return;
        }
        $person = $this->person === null ? null : Person::query()->findOrFail($this->person);
        $outcome = $acts->commit(
            $person,
            [new TakeOver($this->import, $this->removals)],
            reason: 'taken over from an import, after its preview',
        );
        if ($outcome->blocked()) {
            $acts->commit(
                null,
                [
                    new MarkImport(
                        $this->import,
                        ImportState::Judged,
                        ($outcome->block()->message ?? (string) $outcome->trouble).' '.($outcome->block()->why ?? ''),
                    ),
                ],
            );
        }
    }

    /** After the last try: said on the page of the import. */
    public function failed(?\Throwable $e): void
    {
        app(Acts::class)->commit(
            null,
            [
                new MarkImport(
                    $this->import,
                    ImportState::Judged,
                    'Taking over stopped: '.($e?->getMessage() ?? 'the worker was ended too often').'. Nothing was written.',
                ),
            ],
        );
    }
}
