<?php

declare(strict_types=1);

namespace App\Console;

use App\Acts\Engine\Acts;
use App\Acts\Imports\MarkImport;
use App\Acts\Imports\StartImport;
use App\Imports\ImportFile;
use App\Jobs\ReadImport;
use App\Jobs\TakeOverImport;
use App\Models\Import;
use App\Models\ImportState;
use App\Models\RowVerdict;
use Illuminate\Support\Facades\DB;

/** The console way through an import: the same reading, judging and taking over as on screen. */
abstract class Imports extends Computes
{
    abstract protected function kind(): string;

    /** What it is taken into, null where there is none. */
    abstract protected function target(): ?string;

    abstract protected function noTarget(): string;

    public function handle(Acts $acts): int
    {
        $file = (string) $this->argument('file');
        if ($file === '-') {
            // Read more than once, so it is kept until it is judged.
            $file = (string) tempnam(sys_get_temp_dir(), 'hpost');
            file_put_contents($file, STDIN);
            register_shutdown_function(static fn (): bool => @unlink($file));
        }
        $target = $this->target();
        if (! is_file($file) || $target === null) {
            return $this->unusable(
                $target === null ? $this->noTarget() : "\"$file\" is no file that can be read",
            );
        }
        $start = StartImport::fromInput([
            'kind' => $this->kind(), 'target' => $target, 'fileName' => basename($file), 'path' => (string) realpath($file),
        ]);
        ImportFile::keep($start->id, $start->path);
        $outcome = $acts->commit(null, [$start]);
        if ($outcome->blocked()) {
            ImportFile::drop($start->id);

            return $this->unusable($outcome->block()->message ?? (string) $outcome->trouble);
        }
        (new ReadImport($start->id))->handle($acts);
        $import = Import::query()->findOrFail($start->id);
        if (in_array($import->state, [ImportState::Failed, ImportState::Headings], true)) {
            $acts->commit(null, [new MarkImport($import->id, ImportState::Cancelled, $import->message)]);

            return $this->unusable($import->message);
        }
        if ($this->option('commit')) {
            $acts->commit(null, [new MarkImport($import->id, ImportState::Taking)]);
            (new TakeOverImport($import->id, null, (bool) $this->option('removals')))->handle($acts);
            $import->refresh();
        } else {
            $acts->commit(null, [new MarkImport($import->id, ImportState::Cancelled, 'previewed from the console')]);
        }

        return $this->report($import);
    }

    private function report(Import $import): int
    {
        $counts = $import->counts + ['add' => 0, 'change' => 0, 'same' => 0, 'cut' => 0, 'refused' => 0];
        $refused = DB::table('import_rows')->where('import_id', $import->id)->where('verdict', RowVerdict::Refused)
            ->orderBy('line')->limit(1000)->get(['line', 'what', 'reason']);
        if ($this->option('json')) {
            $this->json([
                'state' => $import->state->value, 'counts' => $counts,
                'refused' => $refused->map(fn (object $r): array => (array) $r)->all(),
                'message' => $import->message,
            ]);
        } else {
            $this->say(
                sprintf(
                    '%d to add, %d to change, %d the same, %d not in the file, %d refused; %s',
                    $counts['add'],
                    $counts['change'],
                    $counts['same'],
                    $counts['cut'],
                    $counts['refused'],
                    $import->state === ImportState::Taken
                        ? 'taken over'
                        : 'nothing written'.($import->message !== '' ? ": $import->message" : ''),
                ),
            );
            foreach ($refused as $r) {
                $this->say("line $r->line: $r->what: $r->reason");
            }
        }

        return $refused->isNotEmpty() || $import->state === ImportState::Failed ? 1 : 0;
    }
}
