<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Drafts\Drafts;
use App\Acts\Drafts\KeepEdit;
use App\Acts\Engine\Act;
use App\Acts\Engine\Acts;
use App\Acts\Engine\BadInput;
use App\Acts\Engine\Field;
use App\Acts\Engine\Inputs;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Meanwhile;
use App\Acts\Engine\Outcome;
use App\Acts\Engine\Understanding;
use App\Acts\Registry;
use App\Http\AllThatMatch;
use App\Http\Middleware\KeepSession;
use App\Http\Sure;
use App\Models\Draft;
use App\Models\Person;
use App\Queries\Called;
use App\Queries\Reach;
use App\Shipping\NextSteps;
use App\View\Follows;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\Crypt;

/** Every form of the application posts here: what follows, add to draft, or commit now. */
final class ActController
{
    /** Fields that the next one of the same kind cannot share. */
    private const OF_EACH = [
        '_token', 'then', 'seen', 'over', 'shown', 'reason', 'sure', 'id', 'name', 'prefix', 'fit-place', 'address', 'mac', 'gateway',
        'number', 'description',
    ];

    /** Fields of the form that are no input of the act. */
    private const OF_FORM = [
        '_token', '_form', 'then', 'seen', 'over', 'shown', 'reason', 'sure', 'fit-place', 'another', 'stay',
        AllThatMatch::FIELD,
    ];

    /** How many objects a form may say it has seen. */
    private const SEEN = 20_000;

    public function __construct(private readonly Acts $acts, private readonly Meanwhile $meanwhile)
    {
    }

    public function __invoke(Request $request, string $action): Response|RedirectResponse
    {
        $answer = $this->answer($request, $action);

        // Asked from within a page: what is done leads on, everything else stays where it was asked.
        if (! $answer instanceof RedirectResponse || ! $request->hasHeader('HX-Request')) {
            return $answer;
        }
        $request->attributes->set(KeepSession::KEEP, true);

        return response('', 200, ['HX-Redirect' => $answer->getTargetUrl()]);
    }

    private function answer(Request $request, string $action): Response|RedirectResponse
    {
        $class = Registry::find($action) ?? abort(404);
        $person = $this->person();
        $input = array_diff_key($request->all(), array_flip(self::OF_FORM));
        try {
            $input = AllThatMatch::in($request, $input, Reach::of($person));
            $act = $class::fromInput(Understanding::of($class, $input, $person));
        } catch (BadInput $e) {
            return $this->badInput($request, $class, $action, $input, $e);
        }
        $then = $this->word($request, 'then', 'preview');
        $password = $this->word($request, 'sure');
        if (in_array($then, ['commit', 'draft'], true) && $act->opensDoors() && ! Sure::by($request, $person, $password)) {
            $outcome = $this->acts->rehearse($person, [$act], [$this->seen($request)]);

            return $this->follows($request, $action, $act, $input, $outcome, null, $password === '' ? Sure::ASKED : Sure::WRONG);
        }
        if ($then === 'commit' && $this->wasShown($request, $act)) {
            return $this->commit($request, $person, $action, $act, $input);
        }
        $draft = Registry::isDraftable($class) ? Drafts::open($person) : null;
        [$draft, $outcome] = $this->rehearse($person, $draft, $act, $this->seen($request));
        if ($then === 'draft' && Registry::isDraftable($class) && ! $outcome->blocked() && $this->wasShown($request, $act)) {
            [$expects, $touches] = Drafts::traces($outcome);
            $kept = $this->acts->commit($person, [new KeepEdit($act::key(), $act->toInput(), $expects, $touches, $act->title())]);

            return $kept->blocked()
                ? back()->withInput()
                : $this->done($request, $this->afterDraft($request), $act->title().' is in the draft.');
        }

        return $this->follows(
            $request,
            $action,
            $act,
            $input,
            $outcome,
            $draft,
            $then === 'preview' ? null : 'What was sent is not what was shown. Nothing was written; this is what follows now.',
        );
    }

    /**
     * On top of the person's draft, as far as that still holds; a draft that does not hold is said and is in nobody's way.
     *
     * @param  array<string, int>  $seen
     * @return array{?Draft, Outcome} the draft that it stands on
     */
    private function rehearse(Person $person, ?Draft $draft, Act $act, array $seen): array
    {
        if ($draft !== null && $draft->edits->isNotEmpty()) {
            try {
                $outcome = $this->acts->rehearse($person, [...Drafts::acts($draft), $act], [...Drafts::expects($draft), $seen]);
                if (! $outcome->blocked() || count($outcome->ledgers) > $draft->edits->count()) {
                    return [$draft, $outcome];
                }
            } catch (BadInput) {
                // An edit of the draft cannot be read any more: its page says which.
            }
        }

        return [null, $this->acts->rehearse($person, [$act], [$seen])];
    }

    /** @param  array<mixed>  $input */
    private function commit(Request $request, Person $person, string $action, Act $act, array $input): Response|RedirectResponse
    {
        $effects = explode(':', $this->word($request, 'shown'))[1] ?? null;
        $outcome = $this->acts->commit(
            $person,
            [$act],
            [$this->seen($request)],
            $this->word($request, 'reason') ?: null,
            shown: $effects === '' ? null : $effects,
        );
        if ($outcome->stale || $outcome->wantsReason) {
            return $this->follows(
                $request,
                $action,
                $act,
                $input,
                $this->acts->rehearse($person, [$act], [$this->seen($request)]),
                null,
                (string) $outcome->trouble,
            );
        }
        if ($outcome->changedMeanwhile() !== []) {
            return $this->follows(
                $request,
                $action,
                $act,
                $input,
                $outcome,
                null,
                'Somebody saved a change while you had this open. Nothing was written, and what you typed is kept.',
            );
        }
        if ($outcome->blocked() && $request->hasHeader('HX-Request')) {
            return $this->follows($request, $action, $act, $input, $outcome, null, 'Nothing was written.');
        }
        if ($outcome->blocked()) {
            $block = $outcome->block();
            session()->flash('bad', $outcome->why());
            session()->flash('bad-link', $block?->link);

            return back()->withInput($request->except(['token', 'secret', 'password', 'old', 'new', 'sure']))
                ->withErrors($block?->field === null ? [] : [$block->field => $block->message]);
        }
        // One's own sessions ended: this one goes on. A password for one sign-in is shown once.
        if (is_int($outcome->made('epoch'))) {
            session()->put('epoch', $outcome->made('epoch'));
        }
        if (is_string($outcome->made('once'))) {
            session()->flash('once', Crypt::encryptString($outcome->made('once')));
            session()->flash('once-words', $outcome->made('once-words'));
        }
        if ($person->operatesAll()) {
            session()->flash('next', NextSteps::of($outcome));
        }
        $place = $outcome->made('address');

        return $this->done(
            $request,
            $act->landing(),
            $act->title().(is_string($place) && ! str_contains($act->title(), $place) ? " at $place" : '').': done.',
        );
    }

    /** @param  array<mixed>  $input */
    private function follows(
        Request $request,
        string $action,
        Act $act,
        array $input,
        Outcome $outcome,
        ?Draft $draft,
        ?string $notice,
    ): Response {
        $changed = $outcome->changedMeanwhile();
        $data = [
            'beside' => $changed === [] ? [] : $this->meanwhile->beside($this->person(), $act, $this->seen($request), $changed),
            'over' => $this->versions($request, 'over'),
            'outcome' => $outcome, 'title' => Inputs::titleFor($this->person(), $act), 'action' => $action,
            'form' => $this->word($request, '_form', 'act'), 'draftable' => Registry::isDraftable($act::class),
            'base' => $draft === null ? 0 : $draft->edits->count(),
            'inputs' => $this->carried($act, $input),
            'seen' => $this->versions($request, 'seen'),
            'shown' => self::inputDigest($act).':'.($draft === null ? $outcome->digest() : ''),
            'brokenDraft' => $draft === null
                && Registry::isDraftable($act::class)
                && (Drafts::open($this->person())?->edits->count() ?? 0) > 0,
            'reason' => $this->word($request, 'reason'), 'notice' => $notice,
            'asks' => $act->opensDoors() && ! Sure::is($request),
        ];
        $data += $this->drawn($outcome, $data['base'], $data['beside']);
        if ($request->hasHeader('HX-Request')) {
            // The answer to "what follows" is a good answer, also when it is that nothing can.
            return response()->view('act.follows', $data);
        }

        return response()->view('act.page', $data, $notice !== null ? 409 : ($outcome->blocked() ? 422 : 200));
    }

    /**
     * @param  class-string<Act>  $class
     * @param  array<mixed>  $input
     */
    private function badInput(Request $request, string $class, string $action, array $input, BadInput $bad): Response|RedirectResponse
    {
        $outcome = Outcome::unread($this->person(), $bad);
        if ($this->word($request, 'then', 'preview') !== 'preview' && ! $request->hasHeader('HX-Request')) {
            session()->flash('bad', implode('. ', array_map(static fn ($n): string => $n->message, array_slice($bad->notes, 0, 5))));

            return back()->withInput(self::flashable($input))
                ->withErrors(array_column(array_map(static fn ($n): array => [$n->field ?? '', $n->message], $bad->notes), 1, 0));
        }
        $data = [
            'outcome' => $outcome, 'title' => str_replace('-', ' ', ucfirst($action)), 'action' => $action,
            'form' => $this->word($request, '_form', 'act'), 'draftable' => false, 'base' => 0, 'inputs' => [], 'seen' => [],
            'beside' => [], 'over' => [], 'shown' => '', 'brokenDraft' => false, 'reason' => '', 'notice' => null, 'asks' => false,
        ] + $this->drawn($outcome, 0, []);

        return $request->hasHeader('HX-Request')
            ? response()->view('act.follows', $data)
            : response()->view('act.page', $data, 422);
    }

    /**
     * @param  list<array<string, mixed>>  $beside  what somebody saved meanwhile
     * @return array{what: Follows, called: Called} what follows, and the names in what stands beside it
     */
    private function drawn(Outcome $outcome, int $base, array $beside): array
    {
        $values = [];
        foreach ($beside as $one) {
            foreach ($one['rows'] as $row) {
                foreach (['saw', 'theirs', 'mine'] as $side) {
                    $values[] = [$row['column'] => $row[$side]];
                }
            }
        }

        return ['what' => new Follows($outcome, $base, new Called(...Follows::toCall($outcome, $base))), 'called' => new Called($values)];
    }

    /** Were these very inputs shown? A program that shows nothing sends no digest and is taken at its word. */
    private function wasShown(Request $request, Act $act): bool
    {
        return ! $request->exists('shown') || hash_equals(self::inputDigest($act), explode(':', $this->word($request, 'shown'))[0]);
    }

    private static function inputDigest(Act $act): string
    {
        $minted = array_filter(Inputs::of($act::class), static fn (Field $f): bool => $f->kind === Kind::NewId);

        return hash('sha256', $act::key().json_encode(array_diff_key($act->toInput(), $minted), JSON_INVALID_UTF8_SUBSTITUTE));
    }

    /**
     * Inputs for the form of a page of its own: a long selection as one value, since the number of fields is bounded.
     *
     * @param  array<mixed>  $input
     * @return array<mixed>
     */
    private function carried(Act $act, array $input): array
    {
        $fields = Inputs::of($act::class);
        foreach ($input as $name => $value) {
            if (($fields[$name] ?? null)?->kind === Kind::Ids && is_array($value)) {
                $input[$name] = implode(' ', array_filter($value, is_string(...)));
            }
            if (($fields[$name] ?? null)?->kind === Kind::Secret) {
                unset($input[$name]);
            }
        }

        return $input;
    }

    /**
     * @param  array<mixed>  $input
     * @return array<mixed> what may stand in a session: text, and no secret
     */
    private static function flashable(array $input): array
    {
        $kept = array_diff_key($input, array_flip(['token', 'secret', 'password']));

        return array_filter($kept, static fn (mixed $v): bool => ! is_string($v) || mb_check_encoding($v, 'UTF-8') && strlen($v) < 100_000);
    }

    private function done(Request $request, string $landing, string $message): RedirectResponse
    {
        session()->flash('done', $message);
        if ($request->boolean('another')) {
            // What differs from one to the next is left blank; what stays the same is kept.
            return back()->withInput($request->except(self::OF_EACH));
        }
        $stay = $this->word($request, 'stay');

        return redirect($stay !== '' && str_starts_with($stay, '/') && ! str_starts_with($stay, '//') ? $stay : $landing);
    }

    /** An object that is only in the draft has no page yet: stay where the edit was made. */
    private function afterDraft(Request $request): string
    {
        $before = parse_url((string) $request->header('referer'), PHP_URL_PATH);

        return is_string($before) && ! str_starts_with($before, at('act', '')) ? $before : at('ship.draft.mine');
    }

    /**
     * @return array<string, int> versions of what the person saw: when the form was opened, or since, where theirs and mine were shown
     *     side by side
     */
    private function seen(Request $request): array
    {
        return $this->versions($request, 'over') + $this->versions($request, 'seen');
    }

    /** @return array<string, int> "noun:id" → version */
    private function versions(Request $request, string $list): array
    {
        $versions = [];
        foreach (array_slice((array) $request->input($list, []), 0, self::SEEN, true) as $object => $version) {
            if (
                is_string($object)
                    && preg_match('/\A[A-Za-z][A-Za-z0-9 -]*:[0-9A-Z]{26}\z/', $object) === 1
                    && is_string($version)
                    && ctype_digit($version)
            ) {
                $versions[$object] = (int) $version;
            }
        }

        return $versions;
    }

    /** One word of the form, whatever a hostile one sends in its place. */
    private function word(Request $request, string $key, string $default = ''): string
    {
        $value = $request->input($key, $default);

        return is_string($value) && mb_check_encoding($value, 'UTF-8') ? mb_strimwidth($value, 0, 2000) : $default;
    }

    private function person(): Person
    {
        $person = Auth::user();

        return $person instanceof Person ? $person : abort(401);
    }
}
