<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Server;

/**
 * The management side of a server: a stand-in's, or that of an agent in front of a server.
 *
 * A message that got no answer is sent again on a new connection, since a lost answer and a lost message look the same; what may
 * not be done twice says so.
 */
final readonly class ControlChannel
{
    /** Seconds before the second and the third try of a connection that broke or was refused. */
    private const PAUSES = [0.1, 0.4];

    private Wire $wire;

    /**
     * @param  int  $tries  how often a message is sent at most; a server that stays silent for the whole patience is asked twice at most
     */
    public function __construct(private Server $server, float $patience, private int $tries = 3)
    {
        $this->wire = AgentWire::isAgent($server->control) ? new AgentWire($server, $patience) : new LineWire($server, $patience);
    }

    /**
     * @param  array<string, mixed>  $message
     * @param  bool  $once  doing it twice is not doing it once: the caller repairs what a lost answer leaves
     * @return array<string, mixed>
     *
     * @throws Unanswered
     */
    public function ask(string $op, array $message = [], bool $errorsToo = false, bool $once = false): array
    {
        $answer = $this->again(fn (): array => $this->wire->tell($op, $message), $once);
        if (isset($answer['error']) && ! $errorsToo) {
            throw Unanswered::refused($this->server->name, is_string($answer['error']) ? $answer['error'] : 'an error');
        }

        return $answer;
    }

    /**
     * Whether the other end does something that not each of them does.
     *
     * @throws Unanswered
     */
    public function does(string $what): bool
    {
        $does = $this->again(fn (): array => ['does' => $this->wire->does()], false)['does'];

        return $does === null || is_array($does) && in_array($what, $does, true);
    }

    /**
     * @param  \Closure(): array<string, mixed>  $tell
     * @return array<string, mixed>
     */
    private function again(\Closure $tell, bool $once): array
    {
        for ($try = 1; ; $try++) {
            try {
                return $tell();
            } catch (Unanswered $e) {
                if ($once || ! $e->mayPass || $try >= ($e->late ? min(2, $this->tries) : $this->tries)) {
                    throw $e->after($try);
                }
                usleep((int) (1e6 * (self::PAUSES[$try - 1] ?? 0.4)));
            }
        }
    }
}
