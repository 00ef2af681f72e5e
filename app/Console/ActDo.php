<?php

declare(strict_types=1);

namespace App\Console;

use App\Acts\Engine\Act;
use App\Acts\Engine\Acts;
use App\Acts\Engine\BadInput;
use App\Acts\Engine\Inputs;
use App\Acts\Engine\Kind;
use App\Acts\Engine\NoteVerdict;
use App\Acts\Engine\Outcome;
use App\Acts\Engine\Understanding;
use App\Acts\Registry;
use App\Api\IntoDraft;
use App\Api\Problem;
use App\Api\Told;
use App\Models\Person;
use Symfony\Component\Console\Input\ArgvInput;

/** Any act on the console: its inputs as options, with the checks and words of the pages. */
final class ActDo extends Computes
{
    use SpeaksAs;

    protected $signature = 'act {key : as place-host; without inputs, what it takes} {inputs?* : name=value, or --name=value; a list '
        .'apart by commas; @FILE takes what stands in it} {--rehearse : what follows, and nothing written} '
        .'{--draft : into the open draft of --as} '
        .'{--reason= : needed in spite of warnings} {--as= : with the rights of this sign-in} {--json}';

    protected $description = 'Does an act: exit status 1 when it is stopped, 2 when it was not understood';

    protected function configure(): void
    {
        // The inputs of acts are options of their own, which no signature knows.
        $this->ignoreValidationErrors();
    }

    public function handle(Acts $acts): int
    {
        $key = (string) $this->argument('key');
        $class = Registry::find($key);
        $person = $this->speaker();
        if ($person === false) {
            return 2;
        }
        if ($class === null) {
            return $this->unusable("$key: there is no such act; those that there are stand on the page for programs");
        }
        if ($person !== null && ! $class::permits($person)) {
            $this->err("$key: not available to $person->sign_in");

            return 1;
        }
        $given = $this->given($class);
        if (is_string($given)) {
            return $this->unusable($given);
        }
        if ($given === []) {
            return $this->takes($class);
        }
        try {
            $act = $class::fromInput(Understanding::of($class, $given, $person));

            return $this->carry($acts, $act, $person);
        } catch (BadInput $e) {
            foreach ($e->notes as $note) {
                $this->err(trim(($note->field === null ? '' : "$note->field: ")."$note->message. $note->why"));
            }

            return 2;
        } catch (Problem $e) {
            return $this->unusable($e->words());
        }
    }

    private function carry(Acts $acts, Act $act, ?Person $person): int
    {
        if ($this->option('draft')) {
            if ($person === null) {
                return $this->unusable('--draft needs --as: a draft is somebody\'s');
            }

            return $this->told(IntoDraft::keep($acts, $person, [$act], [[]]), false, 'kept in the draft');
        }
        if ($this->option('rehearse')) {
            return $this->told($acts->rehearse($person, [$act]), false, 'rehearsed, nothing was written');
        }
        $reason = $this->option('reason');
        $why = is_string($reason) && $reason !== '' ? mb_strimwidth($reason, 0, 250, '…') : null;
        $outcome = $acts->commit($person, [$act], reason: $why);

        return $this->told($outcome, ! $outcome->blocked(), 'committed');
    }

    private function told(Outcome $outcome, bool $committed, string $done): int
    {
        if ($this->option('json')) {
            $this->json(Told::outcome($outcome, $committed) + ['blocked' => $outcome->blocked()]);

            return $outcome->blocked() ? 1 : 0;
        }
        foreach ($outcome->blocked() ? [] : $outcome->written() as $written) {
            $this->say("{$written->word()}  $written->noun  $written->line");
        }
        $notes = $outcome->notes();
        $block = $outcome->block();
        foreach ($block === null || in_array($block, $notes, true) ? $notes : [...$notes, $block] as $note) {
            $words = trim("$note->message. $note->why");
            match ($note->verdict) {
                NoteVerdict::Blocked => $this->err("STOP  $words"),
                NoteVerdict::Warned => $this->err("warn  $words"),
                default => $this->say("ok    $words"),
            };
        }
        foreach ($outcome->blocked() ? [] : $outcome->later() as $later) {
            $this->say("then  $later");
        }
        if ($outcome->trouble !== null) {
            $this->err($outcome->trouble);
        }
        $outcome->blocked() ? $this->err('nothing was written') : $this->say($done);

        return $outcome->blocked() ? 1 : 0;
    }

    /**
     * @param  class-string<Act>  $class
     * @return array<string, mixed>|string what was given by name, or why it is not understood
     */
    private function given(string $class): array|string
    {
        $own = array_keys($this->getDefinition()->getOptions());
        $texts = array_values(array_filter((array) $this->argument('inputs'), is_string(...)));
        foreach ($this->input instanceof ArgvInput ? $this->input->getRawTokens(true) : [] as $token) {
            if (preg_match('/\A--([A-Za-z]+)=(.*)\z/s', $token, $m) === 1 && ! in_array($m[1], $own, true)) {
                $texts[] = "$m[1]=$m[2]";
            } elseif (preg_match('/\A--([A-Za-z]+)\z/', $token, $m) === 1 && ! in_array($m[1], $own, true)) {
                $texts[] = "$m[1]=1";
            }
        }
        $fields = Inputs::of($class);
        $given = [];
        foreach ($texts as $text) {
            if (preg_match('/\A([A-Za-z]+)=(.*)\z/s', $text, $m) !== 1) {
                return "$text: an input is written as name=value";
            }
            $value = $m[2];
            if (str_starts_with($value, '@')) {
                $value = @file_get_contents(substr($value, 1));
                if ($value === false) {
                    return "$m[1]: ".substr($m[2], 1).' cannot be read';
                }
            }
            $many = in_array(($fields[$m[1]] ?? null)?->kind, [Kind::Ids, Kind::Texts, Kind::Lines], true);
            $given[$m[1]] = $many ? self::several($value) : $value;
        }

        return $given;
    }

    /** @return list<string> */
    private static function several(string $value): array
    {
        return array_values(array_filter(
            array_map(trim(...), preg_split('/[,\n]/', $value) ?: []),
            static fn (string $one): bool => $one !== '',
        ));
    }

    /** @param  class-string<Act>  $class */
    private function takes(string $class): int
    {
        foreach ((new \ReflectionClass($class))->getConstructor()?->getParameters() ?? [] as $parameter) {
            $field = Inputs::of($class)[$parameter->getName()] ?? null;
            if ($field !== null) {
                $needed = $parameter->isOptional() ? ' ' : '*';
                $this->say(rtrim(sprintf('%s --%-14s %s', $needed, $parameter->getName(), trim("$field->label. $field->help", '. '))));
            }
        }
        $this->err('those with a star are needed');

        return 2;
    }
}
