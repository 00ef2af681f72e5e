<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Pair;
use App\Models\Server;
use HarborPost\Core\Exchange\Pair\PairKey;
use HarborPost\Core\Exchange\Pair\PairState;
use Illuminate\Support\Facades\DB;

/** The pairs of one DHCP stand-in: what they are meant to be there, what is there, and in which state the server is. */
final readonly class StandinPairs
{
    public function __construct(private Server $server, private ControlChannel $channel)
    {
    }

    /** @return list<Difference> pairs that are meant to be there, and at the end those that are not */
    public function compare(): array
    {
        [$running] = $this->running();
        $differences = [];
        $placements = DB::table('pair_servers')->where('server_id', $this->server->id)->get()->keyBy('pair_id');
        foreach (self::of($this->server) as $pair) {
            $meant = self::lines(self::form($pair, $this->server));
            $has = isset($running[$pair->id]) ? self::lines($running[$pair->id]) : null;
            unset($running[$pair->id]);
            $added = array_values(array_diff($meant, $has ?? []));
            $removed = array_values(array_diff($has ?? [], $meant));
            $placement = $placements[$pair->id] ?? null;
            $asShipped = $placement !== null && $placement->shipped_digest === self::digest($pair, $this->server);
            $equal = $has !== null && $added === [] && $removed === [];
            $differences[] = new Difference(
                'pair',
                $pair->id,
                $pair->name,
                $has === null ? DifferenceState::New
                    : ($equal && $asShipped && $placement->verified_at !== null ? DifferenceState::Same : DifferenceState::Differs),
                $removed,
                $added,
                count($removed),
                count($added),
                $has === null ? 'not on this server yet' : ($equal ? 'it runs as meant, and nothing has proved it yet' : ''),
                drifted: $asShipped && ! $equal,
            );
        }
        foreach ($running as $id => $form) {
            $lines = self::lines($form);
            $differences[] = new Difference(
                'pair',
                (string) $id,
                is_string($form['name'] ?? null) ? $form['name'] : (string) $id,
                DifferenceState::Gone,
                $lines,
                [],
                count($lines),
                0,
                'the plan has no such pair',
                drifted: true,
            );
        }

        return $differences;
    }

    /** @return list<Difference> those that the plan has, for a server that does no pairs */
    public function waiting(): array
    {
        return array_values(self::of($this->server)->map(static fn (Pair $p): Difference => new Difference(
            'pair', $p->id, $p->name, DifferenceState::Waiting, message: 'its agent does not do pairs',
        ))->all());
    }

    public function apply(string $id): void
    {
        $pair = self::of($this->server)->firstWhere('id', $id);
        $pair === null
            ? $this->channel->ask('pair-cut', ['id' => $id])
            : $this->channel->ask('pair-put', ['pair' => self::form($pair, $this->server, secrets: true)]);
    }

    /** @throws Unanswered when the server does not have it as it is meant */
    public function verify(string $id): string
    {
        $pair = self::of($this->server)->firstWhere('id', $id);
        [$running, $states] = $this->running();
        if ($pair === null) {
            return isset($running[$id])
                ? throw Unanswered::differs($this->server->name, 'it still has the pair')
                : 'read back: the pair is gone from the server';
        }
        $meant = self::lines(self::form($pair, $this->server));
        $left = isset($running[$id])
            ? [...array_diff($meant, self::lines($running[$id])), ...array_diff(self::lines($running[$id]), $meant)]
            : ['the whole pair'];
        if ($left !== []) {
            throw Unanswered::differs($this->server->name, "read back, the pair $pair->name still differs: ".implode('; ', $left));
        }
        $state = self::stateOf($states[$id] ?? []);

        return 'read back and equal; the server is in '.($state->value ?? 'no state')
            .($state === PairState::Normal ? ''
                : ", until {$pair->partnerOf($this->server->id)->name} has the pair and they hear each other");
    }

    /**
     * Why the server gives nobody new an address of the scope now; null when it does.
     *
     * @throws Unanswered
     */
    public function holdsBack(Pair $pair, string $scope): ?string
    {
        $state = $this->running()[1][$pair->id] ?? [];
        $is = self::stateOf($state);
        $partner = $pair->partnerOf($this->server->id)->name;

        return match (true) {
            $is === null => "the pair $pair->name is not on the server",
            ! $is->givesNew() => "the server is in $is->value: it {$is->means()}",
            ! in_array($scope, (array) ($state['ready'] ?? []), true) => "$partner does not have the scope in the pair yet",
            default => null,
        };
    }

    /** @param  array<mixed>  $told */
    private static function stateOf(array $told): ?PairState
    {
        return PairState::tryFrom(is_string($told['state'] ?? null) ? $told['state'] : '');
    }

    /** @return array{array<string, array<mixed>>, array<string, array<mixed>>} pairs by id, and what the server says of each */
    private function running(): array
    {
        $answer = $this->channel->ask('pairs');
        $byId = static function (mixed $rows): array {
            $found = [];
            foreach (is_array($rows) ? $rows : [] as $row) {
                if (is_array($row) && is_string($row['id'] ?? null)) {
                    $found[$row['id']] = $row;
                }
            }

            return $found;
        };

        return [$byId($answer['pairs'] ?? []), $byId($answer['states'] ?? [])];
    }

    /** @return \Illuminate\Support\Collection<int, Pair> */
    private static function of(Server $server): \Illuminate\Support\Collection
    {
        return Pair::query()->with(['first', 'second'])->where('first_id', $server->id)->orWhere('second_id', $server->id)
            ->orderBy('name')->get()->toBase();
    }

    public static function digest(Pair $pair, Server $server): string
    {
        return hash('sha256', json_encode(self::form($pair, $server), JSON_THROW_ON_ERROR));
    }

    /**
     * @param  bool  $secrets  the keys themselves; otherwise what is said of them
     * @return array{id: string, name: string, side: string, partner: string, mode: string, percent: int, lead: int,
     *     keys: array<string, string>}
     */
    public static function form(Pair $pair, Server $server, bool $secrets = false): array
    {
        $keys = [];
        foreach ($pair->keys as $key) {
            $keys[$key['id']] = $secrets ? $key['secret'] : PairKey::mark($key['secret']);
        }

        return [
            'id' => $pair->id, 'name' => $pair->name, 'side' => $pair->first_id === $server->id ? 'first' : 'second',
            'partner' => $pair->partnerOf($server->id)->endpoint, 'mode' => $pair->mode->value, 'percent' => $pair->percent,
            'lead' => $pair->lead, 'keys' => $keys,
        ];
    }

    /**
     * @param  array<mixed>  $form
     * @return list<string> one line a fact
     */
    private static function lines(array $form): array
    {
        $text = static fn (string $key): string => is_scalar($form[$key] ?? null) ? (string) $form[$key] : '?';
        $lines = [
            "{$text('side')} server, named {$text('name')}", "partner at {$text('partner')}",
            $text('mode') === 'standby'
                ? "the second stands by, {$text('percent')} % of the addresses are kept for it"
                : "both answer, {$text('percent')} % for the first",
            "leases run ahead by {$text('lead')} s at most",
        ];
        foreach (is_array($form['keys'] ?? null) ? $form['keys'] : [] as $id => $mark) {
            $lines[] = "key $id, ".(is_string($mark) ? $mark : '?');
        }

        return $lines;
    }
}
