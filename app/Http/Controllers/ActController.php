<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Actions\Acts;
use App\Actions\Drafts\KeepEdit;
use App\Actions\Registry;
use App\Models\Person;
use App\Queries\Drafts;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Auth;

/** Every form of the application posts here: what follows, add to draft, or commit now. */
final class ActController
{
    /** Fields that the next one of the same kind cannot share. */
    private const OF_EACH = ['_token', 'then', 'seen', 'reason', 'id', 'name', 'prefix', 'fit-place', 'address', 'mac', 'gateway', 'number', 'description'];

    public function __construct(private readonly Acts $acts)
    {
    }

    public function __invoke(Request $request, string $action): Response|RedirectResponse
    {
        $class = Registry::find($action) ?? abort(404);
        $person = $this->person();
        $input = array_diff_key($request->all(), array_flip(['_token', '_form', 'then', 'seen', 'reason', 'fit-place', 'another']));
        $act = $class::fromInput($input);
        $then = $request->string('then', 'preview')->toString();
        if ($then === 'commit') {
            return $this->commit($request, $person, $act);
        }
        $draft = Registry::isDraftable($class) ? Drafts::open($person) : null;
        $outcome = $this->acts->rehearse($person, [...Drafts::acts($draft), $act], [...Drafts::expects($draft), $this->seen($request)]);
        if ($then === 'draft' && Registry::isDraftable($class) && ! $outcome->blocked()) {
            [$expects, $touches] = Drafts::traces($outcome);
            $kept = $this->acts->commit($person, [new KeepEdit($act::key(), $act->toInput(), $expects, $touches, $act->title())]);

            return $kept->blocked() ? back()->withInput() : $this->done($request, $this->afterDraft($request, $act->landing(), $touches), $act->title().' is in the draft.');
        }
        $data = [
            'outcome' => $outcome, 'act' => $act, 'action' => $action, 'form' => $request->string('_form', 'act')->toString(), 'draftable' => Registry::isDraftable($class),
            'base' => $draft === null ? 0 : $draft->edits->count(), 'inputs' => $input, 'seen' => (array) $request->input('seen', []),
        ];
        if ($request->hasHeader('HX-Request')) {
            // The answer to "what follows" is a good answer, also when it is that nothing can.
            return response()->view('act.follows', $data);
        }

        return response()->view('act.page', $data, $outcome->blocked() ? 422 : 200);
    }

    private function commit(Request $request, Person $person, \App\Actions\Action $act): RedirectResponse
    {
        $outcome = $this->acts->commit($person, [$act], [$this->seen($request)], $request->string('reason')->toString() ?: null);
        if ($outcome->blocked()) {
            $block = $outcome->block();
            session()->flash('bad', ($block->message ?? (string) $outcome->trouble).($block?->why ? '. '.$block->why : ''));
            session()->flash('bad-link', $block?->link);

            return back()->withInput();
        }
        $place = $outcome->made('address');

        return $this->done($request, $act->landing(), $act->title().(is_string($place) && ! str_contains($act->title(), $place) ? " at $place" : '').': done.');
    }

    private function done(Request $request, string $landing, string $message): RedirectResponse
    {
        session()->flash('done', $message);
        if ($request->boolean('another')) {
            // What differs from one to the next is left blank; what stays the same is kept.
            return back()->withInput($request->except(self::OF_EACH));
        }
        $stay = $request->string('stay')->toString();

        return redirect($stay !== '' && str_starts_with($stay, '/') && ! str_starts_with($stay, '//') ? $stay : $landing);
    }

    /**
     * An object that is only in the draft has no page yet: stay where the edit was made.
     *
     * @param  list<string>  $touches
     */
    private function afterDraft(Request $request, string $landing, array $touches): string
    {
        $before = parse_url((string) $request->header('referer'), PHP_URL_PATH);

        return is_string($before) && ! str_starts_with($before, '/act/') ? $before : '/ship/draft';
    }

    /** @return array<string, int> versions of what the person saw when the form was opened */
    private function seen(Request $request): array
    {
        $seen = [];
        foreach ((array) $request->input('seen', []) as $object => $version) {
            if (is_string($object) && str_contains($object, ':') && is_numeric($version)) {
                $seen[$object] = (int) $version;
            }
        }

        return $seen;
    }

    private function person(): Person
    {
        $person = Auth::user();

        return $person instanceof Person ? $person : abort(401);
    }
}
