<?php

declare(strict_types=1);

namespace App\Console;

use App\Acts\Engine\Inputs;
use App\Acts\Engine\Kind;
use App\Acts\Registry;
use App\Api\Collections;
use App\Models\Person;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Schema;

/** What may be typed next, a line each: the shell asks while somebody types (`./hpost completion`). */
final class Complete extends Command
{
    protected $signature = 'complete {typed* : the words so far, the last one perhaps not whole}';

    protected $description = 'Says to the shell what may be typed next';

    protected $hidden = true;

    protected function configure(): void
    {
        // What is typed so far may look like options of this command.
        $this->ignoreValidationErrors();
    }

    public function handle(): int
    {
        $typed = array_values(array_map(strval(...), (array) $this->argument('typed')));
        $last = (string) array_pop($typed);
        $fits = array_filter(self::next($typed, $last), static fn (string $word): bool => str_starts_with($word, $last));
        sort($fits);
        $this->output->writeln(array_values(array_unique($fits)));

        return 0;
    }

    /**
     * @param  list<string>  $before
     * @return list<string>
     */
    private static function next(array $before, string $last): array
    {
        [$word, $about] = $before + [null, null];
        $command = $word === null ? null : (Artisan::all()[$word] ?? null);
        if ($word === null) {
            $ours = static fn ($c): bool => ! $c->isHidden() && str_starts_with($c::class, 'App\\');

            return array_keys(array_filter(Artisan::all(), $ours));
        }
        if ($command === null) {
            return [];
        }
        if (str_starts_with($last, '--as=')) {
            return array_map(static fn (string $who): string => "--as=$who", self::people());
        }
        $options = [];
        foreach ($command->getDefinition()->getOptions() as $option) {
            $options[] = "--{$option->getName()}".($option->acceptValue() ? '=' : '');
        }

        return match (true) {
            $word === 'act' && $about === null => array_map(static fn (string $c): string => $c::key(), Registry::ACTS),
            $word === 'act' => [...self::inputs((string) $about, $last), ...$options],
            $word === 'get' && $about === null => array_keys(Collections::OF),
            $word === 'get' => [...self::filters((string) $about), ...$options],
            default => $options,
        };
    }

    /** @return list<string> inputs of an act as name=, and their choices once it is typed */
    private static function inputs(string $key, string $last): array
    {
        $class = Registry::find($key);
        $dashes = str_starts_with($last, '--') ? '--' : '';
        $words = [];
        foreach ($class === null ? [] : Inputs::of($class) as $name => $field) {
            if ($field->kind === Kind::NewId) {
                continue;
            }
            $words[] = "$dashes$name=";
            foreach (str_starts_with($last, "$dashes$name=") ? $field->choices : [] as $choice) {
                $words[] = "$dashes$name=$choice";
            }
        }

        return $words;
    }

    /** @return list<string> */
    private static function filters(string $list): array
    {
        return isset(Collections::OF[$list]) ? array_map(static fn (string $f): string => "$f=", Collections::filters($list)) : [];
    }

    /** @return list<string> nobody while the database is not there: the shell is told nothing then */
    private static function people(): array
    {
        return array_values(rescue(
            static fn (): array => Schema::hasTable('people') ? Person::query()->where('active', true)->orderBy('sign_in')->limit(200)
                ->pluck('sign_in')->map(strval(...))->all() : [],
            [], false,
        ));
    }
}
