<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/** Starts again what has ended, with growing pauses while it does not stay. */
final class Keeper
{
    /** Seconds after which something that was started again counts as staying. */
    private const STAYS = 60;

    /** @var array<string, int> */
    private array $next = [];

    /** @var array<string, float> */
    private array $pause = [];

    /** @var array<string, int> */
    private array $since = [];

    /**
     * @param  \Closure(string): void  $restart
     * @param  array<string, int>  $later  part → seconds for which it stays away first
     */
    public function __construct(private readonly Instance $instance, private readonly \Closure $restart, private readonly array $later = [])
    {
    }

    /** @param  list<string>  $held  parts that somebody else starts */
    public function look(array $held = []): void
    {
        foreach (array_keys($this->instance->processes->all()) as $name) {
            if ($name === 'hpost' || in_array($name, $held, true) || $this->instance->processes->isAlive($name)) {
                $this->since[$name] ??= time();
                if (time() - $this->since[$name] > self::STAYS) {
                    unset($this->pause[$name]);
                }
            } elseif (isset($this->later[$name], $this->since[$name])) {
                unset($this->since[$name]);
                $this->next[$name] = time() + $this->later[$name];
            } elseif (time() >= ($this->next[$name] ?? 0)) {
                $this->again($name);
            }
        }
    }

    private function again(string $name): void
    {
        unset($this->since[$name]);
        $this->pause[$name] = min(60, 2 * ($this->pause[$name] ?? 0.5));
        $this->next[$name] = time() + (int) $this->pause[$name];
        fwrite(STDERR, date('H:i:s')." $name has ended and is started again; its log is in {$this->instance->directory}/log\n");
        $this->instance->processes->sweep($name);
        try {
            ($this->restart)($name);
        } catch (Trouble $e) {
            fwrite(STDERR, $e->getMessage()."\n");
        }
    }
}
