<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Dns\Wire\Asker;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Wire\Tsig;
use HarborPost\Core\Dns\Wire\TsigKey;
use HarborPost\Core\Dns\Zone\SecondaryClock;
use HarborPost\Core\Dns\Zone\Transfer;
use HarborPost\Core\Net\Address;
use React\EventLoop\LoopInterface;

/**
 * One zone that a server takes from its primary: asks for the SOA when it is due or notified, transfers what is newer, gives up when it
 * expires.
 */
final class Secondary
{
    /** Seconds between tries while there is no zone yet. */
    private const FIRST_RETRY = 10;

    public int $refreshed = 0;

    public ?int $tried = null;

    public string $trouble = 'not asked yet';

    /** whole or steps, of the last transfer */
    public string $lastTransfer = '';

    private bool $busy = false;

    private bool $again = false;

    /**
     * @param  \Closure(Transfer): void  $taken  puts what came into service
     * @param  \Closure(): int  $now
     */
    public function __construct(
        private readonly LoopInterface $loop,
        public readonly string $view,
        public readonly Name $origin,
        public readonly string $primary,
        public readonly ?TsigKey $key,
        private readonly Address $source,
        private readonly ?Address $client,
        private readonly \Closure $taken,
        private readonly \Closure $now,
    ) {
    }

    /** @return array<string, mixed> what the control channel told, for the journal */
    public function settings(): array
    {
        return [
            'view' => $this->view, 'zone' => (string) $this->origin, 'primary' => $this->primary,
            'key' => $this->key === null ? null : (string) $this->key->name,
            'client' => $this->client === null ? null : (string) $this->client, 'refreshed' => $this->refreshed,
        ];
    }

    public function clock(?ServedZone $zone): ?SecondaryClock
    {
        $soa = $zone?->soa()?->data;

        return $soa instanceof Soa ? SecondaryClock::of($soa, $this->refreshed, $this->tried) : null;
    }

    public function isDue(?ServedZone $zone, int $now): bool
    {
        $clock = $this->clock($zone);

        return $clock === null ? $this->tried === null || $now >= $this->tried + self::FIRST_RETRY : $clock->isDue($now);
    }

    /** Asks the primary now; a request while one is under way is done after it. */
    public function refresh(?ServedZone $zone): void
    {
        if ($this->busy) {
            $this->again = true;

            return;
        }
        $this->busy = true;
        $have = $zone?->serial();
        $this->ask(RecordType::SOA, null, function (Message $answer) use ($zone, $have): bool {
            if ($answer->rcode !== Rcode::NoError || ! $answer->authoritative) {
                $this->fail(
                    "the primary at $this->primary: "
                        .($answer->rcode === Rcode::NoError ? 'answers without authority' : $answer->rcode->explained()),
                );

                return false;
            }
            foreach ($answer->answers as $record) {
                if ($record->data instanceof Soa && $record->owner->equals($this->origin)) {
                    $have === null || Serial::of($have)->isBefore($record->data->serial) ? $this->transfer($zone) : $this->fine();

                    return false;
                }
            }
            $this->fail("the primary at $this->primary does not have the zone");

            return false;
        });
    }

    private function transfer(?ServedZone $zone): void
    {
        $have = $zone?->serial();
        $transfer = new Transfer($have === null ? null : Serial::of($have));
        $soa = $zone?->soa();
        $this->ask($have === null ? RecordType::AXFR : RecordType::IXFR, $soa === null ? null : $soa->withTtl(0), function (
            Message $message,
        ) use ($transfer): bool {
            if ($message->rcode !== Rcode::NoError || $message->answers === []) {
                $this->fail("the transfer from $this->primary: {$message->rcode->explained()}");

                return false;
            }
            foreach ($message->answers as $record) {
                $transfer->take($record);
            }
            if (! $transfer->isComplete()) {
                return true;
            }
            ($this->taken)($transfer);
            $this->lastTransfer = $transfer->kind();
            $this->fine();

            return false;
        });
    }

    /** @param  \Closure(Message): bool  $take */
    private function ask(int $type, ?\HarborPost\Core\Dns\Record $soa, \Closure $take): void
    {
        $question = Asking::question(
            $this->origin,
            RecordType::of($type),
            new Asker($this->client, $this->source),
            false,
            $soa === null ? [] : [$soa],
        );
        $bytes = $question->wire();
        $before = null;
        if ($this->key !== null) {
            [$bytes, $before] = Tsig::sign($bytes, $this->key, time());
        }
        $further = false;
        Upstream::ask($this->loop, $this->primary, $bytes, function (string $packet) use ($take, &$before, &$further): bool {
            if ($this->key !== null) {
                [$signature, $packet] = Tsig::check($packet, [$this->key], time(), $before, $further);
                if (! $signature->isGood() || $signature->error !== 0) {
                    throw Malformed::because('the answer is '.$signature->explained(), 'RFC 8945 §5.3');
                }
                $before = $signature->mac;
                $further = true;
            }

            return $take(Message::fromWire($packet));
        }, fn (string $why) => $this->fail($why));
    }

    private function fine(): void
    {
        $this->refreshed = ($this->now)();
        $this->tried = null;
        $this->trouble = '';
        $this->rest();
    }

    private function fail(string $why): void
    {
        $this->tried = ($this->now)();
        $this->trouble = $why;
        $this->rest();
    }

    private function rest(): void
    {
        $this->busy = false;
        if ($this->again) {
            $this->again = false;
            $this->tried = 0;
        }
    }
}
