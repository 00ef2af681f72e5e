<?php

declare(strict_types=1);

namespace App\Console;

use App\Live\AgentCheck as Check;

/** Whether an agent in front of a server of leases keeps its protocol: exit status 1 when a step does not. */
final class AgentCheck extends Computes
{
    protected $signature = 'agent:check {address : as https://host/path} {--token= : or in HARBOR_AGENT_TOKEN} {--json}';

    protected $description = 'Tries an agent in front of a server of leases against docs/agent.md';

    public function handle(): int
    {
        $address = (string) $this->argument('address');
        $token = (string) ($this->option('token') ?? getenv('HARBOR_AGENT_TOKEN') ?: '');
        if (preg_match('~\Ahttps?://[^\s]+\z~', $address) !== 1) {
            return $this->unusable("$address: expected the address of an agent, as https://host/path");
        }
        $steps = Check::of($address, $token);
        if ($this->option('json')) {
            $this->json(['steps' => $steps]);
        }
        foreach ($this->option('json') ? [] : $steps as $step) {
            $mark = match ($step['good']) {
                true => 'ok  ', false => 'NOT ', null => '-   '
            };
            $this->say("$mark$step[what]: $step[words]");
        }

        return in_array(false, array_column($steps, 'good'), true) ? 1 : 0;
    }
}
