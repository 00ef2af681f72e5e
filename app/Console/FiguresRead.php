<?php

declare(strict_types=1);

namespace App\Console;

use App\Acts\Engine\Acts;
use App\Acts\Watch\KeepFigures;
use App\Domain\Watch\Folding;
use App\Links\FiguresClient;
use App\Models\Server;
use HarborPost\Core\Measure\OpenMetrics;
use Illuminate\Console\Command;

final class FiguresRead extends Command
{
    protected $signature = 'figures:read {server? : Only this one, by name}';

    protected $description = 'Reads what the servers measure of themselves, and folds what is older';

    public function handle(Acts $acts): int
    {
        $only = $this->argument('server');
        $servers = Server::query()->where('measured', true)->whereNotNull('metrics')
            ->when(is_string($only) && $only !== '', static fn ($q) => $q->where('name', $only))->orderBy('name')->lazy(200);
        $read = $failed = 0;
        foreach ((new FiguresClient((float) config('harbor.patience')))->read($servers) as $id => $told) {
            $act = $told['text'] === null ? new KeepFigures($id, [], $told['says']) : self::judged($id, $told['text']);
            $acts->commit(null, [$act]);
            $act->problem === null ? $read++ : $failed++;
            $act->problem === null ?: $this->line(Server::query()->whereKey($id)->value('name').": $act->problem");
        }
        Folding::run(now()->toDateTimeImmutable());
        $this->line("$read read, $failed not");

        return 0;
    }

    public static function judged(string $id, string $text): KeepFigures
    {
        try {
            $read = OpenMetrics::read($text, 2 * KeepFigures::MOST);
        } catch (\UnexpectedValueException $e) {
            return new KeepFigures($id, [], "what it tells is not understood: {$e->getMessage()}");
        }
        if ($read->samples === []) {
            return new KeepFigures($id, [], $read->left === 0 ? 'it tells no figures' : "none of its $read->left figures is a number");
        }

        return new KeepFigures($id, $read->samples, null, $read->left + $read->beyond);
    }
}
