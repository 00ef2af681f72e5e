<?php

declare(strict_types=1);

/** As the shell asks: a line that somebody types, cut into words the way bash does. */
function completed(string $line): string
{
    $root = dirname(__DIR__, 2);
    $script = <<<'BASH'
        source <(./hpost completion)
        COMP_LINE="$1"; COMP_POINT=${#1}; read -r -a COMP_WORDS <<< "${1//=/ = }"
        [[ "$1" == *' ' ]] && COMP_WORDS+=('')
        COMP_CWORD=$(( ${#COMP_WORDS[@]} - 1 )); COMPREPLY=(); _hpost; echo "${COMPREPLY[*]}"
        BASH;
    $process = proc_open(
        ['bash', '-c', $script, 'bash', $line], [1 => ['pipe', 'w']], $pipes, $root, ['HPOST_INSTANCE' => 'test'] + getenv(),
    );
    $said = trim((string) stream_get_contents($pipes[1]));
    proc_close($process);

    return $said;
}

it('completes words, acts, inputs, choices, lists and filters', function (string $line, string $says): void {
    expect(completed($line))->toBe($says);
})->with([
    ['./hpost cl', 'cluster'], ['./hpost act place-h', 'place-host'], ['./hpost act place-host ro', 'role='],
    // What stands before the equals sign is there already.
    ['./hpost act place-host role=h', 'host'], ['./hpost act place-host --role=ser', 'service'],
    ['./hpost get pre', 'prefixes'], ['./hpost get prefixes wi', 'within='], ['./hpost zone:c', 'check'],
    ['./hpost act no-such-act ro', ''], ['./hpost nonsense ', ''],
]);
