<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Engine\Acts;
use App\Acts\Watch\TakeBack;
use App\Domain\Back\WayBack;
use App\Domain\Watch\HistoryChain;
use App\Models\Person;
use App\Queries\Called;
use App\Queries\History;
use App\Queries\HistoryPage;
use App\View\Download;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/** What was written, by whom and when, with before and after. */
final class WatchController extends Controller
{
    private const ROWS = 100;

    /** Objects that are named as changed since; where there are more, nobody picks the rest by hand. */
    private const STAYS = 40;

    public function index(Request $request): View
    {
        $this->wholeOnly();
        $word = static fn (string $key): ?string => preg_match('/\A[0-9A-Z]{26}\z/', $request->string($key)->toString()) === 1
            ? $request->string($key)->toString()
            : null;
        if ($word('object') === null && $word('act') === null) {
            return $this->entries($request);
        }
        $rows = History::rows(
            $word('object'),
            $word('act'),
            $request->filled('before') ? $request->integer('before') : null,
            self::ROWS + 1,
        );
        $next = $rows->count() > self::ROWS ? $rows->get(self::ROWS - 1)?->id : null;
        $rows = $rows->take(self::ROWS)->each(static function (\stdClass $r): void {
            $r->op = $r->before === null ? 'new' : ($r->after === null ? 'removed' : 'changed');
            $r->before = (array) json_decode($r->before ?? 'null', true);
            $r->after = (array) json_decode($r->after ?? 'null', true);
        });

        return view('watch.index', [
            'rows' => $rows,
            'next' => $next, 'back' => TakeBack::permits($this->person()) ? $word('act') : null,
            'people' => Person::query()->whereIn('id', $rows->pluck('person_id')->filter()->unique())->pluck('name', 'id'),
            'object' => $word('object') === null ? null : $rows->firstWhere('object_id', $word('object')),
            'called' => new Called([...$rows->pluck('before'), ...$rows->pluck('after')]),
        ]);
    }

    /** What a change wrote, to be taken back: what somebody changed since is named, and the rest is offered. */
    public function back(Request $request, Acts $acts): View|RedirectResponse
    {
        $this->wholeOnly();
        $person = $this->person();
        abort_unless(TakeBack::permits($person), 403);
        $ids = $request->filled('draft')
            ? History::actsOfDraft($request->string('draft')->toString())
            : array_values(array_filter(
                explode(' ', $request->string('act')->toString()),
                static fn (string $a): bool => strlen($a) === 26,
            ));
        if ($ids === []) {
            return redirect(at('watch'));
        }
        $stays = [];
        do {
            $outcome = $acts->rehearse($person, [new TakeBack($ids, array_keys($stays))]);
            $object = $outcome->made('stands');
            $again = $outcome->block() !== null && is_string($object) && ! isset($stays[$object]) && count($stays) < self::STAYS;
            $again ? $stays[$object] = $outcome->block() : null;
        } while ($again);

        return view('watch.back', [
            'acts' => $ids, 'stays' => $stays, 'title' => (new TakeBack($ids))->title(), 'outcome' => $outcome,
            'rows' => WayBack::rows($ids),
        ]);
    }

    /** The history as a file, as far as the filter lets it through. */
    public function file(Request $request, string $form): Response
    {
        $this->wholeOnly();
        $page = new HistoryPage($request->string('filter')->toString());
        $rows = $page->rows();
        $rows->valid();
        abort_if($page->misread !== [], 422, implode('; ', $page->misread));
        $name = 'history-'.now()->format('Y-m-d');

        return match ($form) {
            'json' => Download::json($name, $rows),
            'csv' => Download::csv($name, self::table($rows)),
            default => abort(404),
        };
    }

    /**
     * @param  \Generator<int, array<string, mixed>>  $rows
     * @return \Generator<int, array<int|string, int|string>>
     */
    private static function table(\Generator $rows): \Generator
    {
        $text = static fn (mixed $v): string => is_array($v)
            ? json_encode($v, JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE)
            : (is_scalar($v) ? (string) $v : '');
        yield [
            'number', 'at', 'by', 'via', 'act', 'change', 'kind', 'object', 'title', 'before', 'after', 'reason', 'link', 'hash',
        ];
        foreach ($rows as $row) {
            yield array_values(array_map($text, $row));
        }
    }

    /** An entry an act. */
    private function entries(Request $request): View
    {
        $filter = $request->string('filter')->toString();
        $page = new HistoryPage($filter);
        $entries = $page->entries($request->filled('before') ? $request->integer('before') : null);

        return view('watch.acts', [
            'entries' => $entries, 'filter' => $filter, 'misread' => $page->misread, 'words' => HistoryPage::WORDS, 'next' => $page->next,
            'looked' => $page->looked, 'chain' => HistoryChain::state(),
            'people' => Person::query()->whereIn('id', array_filter(array_column($entries, 'person')))->pluck('name', 'id'),
        ]);
    }
}
