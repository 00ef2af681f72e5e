<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Database\Contention;
use App\Links\HookClient;
use App\Models\Hook;
use Illuminate\Database\QueryException;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/**
 * Events are delivered to each hook in their order, at least once: what is not taken is tried again after growing pauses up to a day, and
 * parked in the end. A process that dies between the call and the note of it leaves the event due.
 */
final readonly class Hooks
{
    /** Seconds before each further try; the last one again and again. */
    private const PAUSES = [10, 60, 300, 900, 3600, 14400, 43200, 86400];

    /** Tries after which an event is parked: about five days. */
    private const TRIES = 12;

    /** Events that one round delivers to one hook. */
    private const ROUND = 200;

    /** Days that events and deliveries are kept. */
    private const KEPT = 30;

    public function __construct(private HookClient $client)
    {
    }

    public static function make(): self
    {
        return new self(new HookClient((float) config('harbor.patience')));
    }

    /** @return int events that were taken */
    public function deliver(): int
    {
        $taken = 0;
        foreach (Hook::query()->where('active', true)->orderBy('id')->get() as $hook) {
            $taken += $this->toOne($hook);
        }
        foreach (['hook_deliveries', 'outbox'] as $table) {
            // By their numbers: nothing that is being committed just now is waited for.
            $old = DB::table($table)->where('at', '<', now()->subDays(self::KEPT))->orderBy('id')->limit(5000)->pluck('id')->all();
            $old === [] ?: DB::table($table)->whereIn('id', $old)->delete();
        }

        return $taken;
    }

    /**
     * A call that tells nothing, to see whether it arrives.
     *
     * @return array{status: ?int, says: string, milliseconds: int}
     */
    public function test(Hook $hook): array
    {
        return $this->call($hook, null, json_encode(['act' => 'test', 'at' => now()->toIso8601ZuluString()], JSON_THROW_ON_ERROR));
    }

    /** What was parked, or waits for its next try, is tried at once. */
    public static function again(Hook $hook): void
    {
        DB::table('hook_states')->where('hook_id', $hook->id)->update(['tries' => 0, 'next_at' => null, 'parked_at' => null]);
    }

    /** Signs id, time and body: who knows the secret knows that it came from here and was not kept for later. */
    public static function signature(string $secret, string $id, string $time, string $body): string
    {
        return hash_hmac('sha256', "$id.$time.$body", $secret);
    }

    private function toOne(Hook $hook): int
    {
        DB::table('hook_states')->insertOrIgnore(['hook_id' => $hook->id, 'delivered' => (int) DB::table('outbox')->min('id') - 1]);
        $taken = 0;
        for ($n = 0; $n < self::ROUND; $n++) {
            $state = DB::table('hook_states')->where('hook_id', $hook->id)->first();
            if (
                $state === null
                    || $state->parked_at !== null
                    || $state->next_at !== null
                    && Carbon::parse((string) $state->next_at)->isFuture()
            ) {
                return $taken;
            }
            $event = $this->next($hook, (int) $state->delivered);
            if ($event === null) {
                return $taken;
            }
            $answer = $this->call($hook, (int) $event->id, (string) $event->body);
            if ($answer['status'] === null || $answer['status'] < 200 || $answer['status'] > 299) {
                $this->later($hook, (int) $state->tries + 1);

                return $taken;
            }
            DB::table('hook_states')->where('hook_id', $hook->id)->where('delivered', $state->delivered)
                ->update(['delivered' => $event->id, 'tries' => 0, 'next_at' => null]);
            $taken++;
        }

        return $taken;
    }

    /**
     * The event after the last one. Numbers are given before acts are committed: an act with an earlier number that is being committed
     * just now is waited for, so that it is not passed over for good. Null when there is none, or when it is not known yet.
     */
    private function next(Hook $hook, int $delivered): ?\stdClass
    {
        try {
            return DB::table('outbox')->where('id', '>', $delivered)->orderBy('id')->sharedLock()
                ->when($hook->kinds, fn ($q) => $q->where(function ($any) use ($hook): void {
                    foreach ($hook->kinds ?? [] as $kind) {
                        $any->orWhere('kinds', 'like', '%|'.addcslashes($kind, '%_\\').'|%');
                    }
                }))
                ->when($hook->site_id, fn ($q, $site) => $q->where('sites', 'like', "%|$site|%"))->first();
        } catch (QueryException $e) {
            if (Contention::isLost($e)) {
                return null;
            }
            throw $e;
        }
    }

    private function later(Hook $hook, int $tries): void
    {
        $pause = self::PAUSES[min($tries, count(self::PAUSES)) - 1];
        DB::table('hook_states')->where('hook_id', $hook->id)->update([
            'tries' => $tries, 'next_at' => now()->addSeconds($pause), 'parked_at' => $tries >= self::TRIES ? now() : null,
        ]);
    }

    /** @return array{status: ?int, says: string, milliseconds: int} */
    private function call(Hook $hook, ?int $event, string $body): array
    {
        $id = $event === null ? 'test' : (string) $event;
        $time = (string) time();
        $answer = $this->client->post($hook->address, $hook->inner, [
            'User-Agent' => 'Harbor Post', 'Event-Id' => $id, 'Event-Time' => $time,
            'Event-Signature' => 'sha256='.self::signature($hook->secret, $id, $time, $body),
        ], $body);
        DB::table('hook_deliveries')->insert(
            ['hook_id' => $hook->id, 'event_id' => $event, 'at' => now()->format('Y-m-d H:i:s.v')] + $answer,
        );

        return $answer;
    }
}
