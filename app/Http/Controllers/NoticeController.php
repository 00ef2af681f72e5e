<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Links\MailClient;
use App\Models\MailState;
use App\Models\Notice;
use App\Models\NoticeKind;
use App\Models\NoticeRule;
use App\Models\Person;
use App\Models\Power;
use App\Models\Role;
use App\Queries\Due;
use App\Queries\KeptRows;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** What people are told of, and what is due. */
final class NoticeController extends Controller
{
    private const MAILS = 200;

    private const SHOWN = 200;

    /** How long what is over is kept, and how much of it there is. */
    public function kept(): View
    {
        $this->wholeOnly();
        $sizes = KeptRows::sizes();

        return view('watch.kept', [
            'kinds' => KeptRows::all($sizes), 'may' => $this->person()->does(Role::Steward),
            'history' => $sizes['history'] ?? [0, 0], 'figures' => $sizes['samples'] ?? [0, 0],
            'since' => DB::table('history')->orderBy('id')->value('at'),
        ]);
    }

    public function index(Request $request): View
    {
        $this->wholeOnly();
        $open = Notice::open()->with('taker')->orderByRaw('taken_by IS NOT NULL')->orderByDesc('told_at')->orderByDesc('id')
            ->limit(self::SHOWN)->get();
        $kind = NoticeKind::tryFrom($request->string('rule')->toString());

        return view('watch.notices', [
            'open' => $open, 'count' => Notice::open()->count(), 'shown' => self::SHOWN,
            'over' => Notice::query()->whereNotNull('over_at')->whereNotNull('told_at')->orderByDesc('over_at')->limit(15)->get(),
            'rules' => array_map(NoticeRule::of(...), NoticeKind::cases()), 'edit' => $kind === null ? null : NoticeRule::of($kind),
            'may' => $this->works(Power::Watch),
            'people' => Person::query()->where('active', true)->whereNull('tenant_id')->orderBy('name')->pluck('name', 'id')->all(),
        ]);
    }

    /** What was sent by mail: to everybody, for a steward; to oneself, for everybody else. */
    public function mail(): View
    {
        $whole = $this->reach()->isWhole() && $this->person()->does(Role::Steward);
        $rows = DB::table('mails')->join('people', 'people.id', '=', 'mails.person_id')
            ->when(! $whole, fn ($q) => $q->where('person_id', $this->person()->id));

        return view('watch.mail', [
            'whole' => $whole, 'set' => MailClient::isSet(), 'waiting' => (clone $rows)->where('state', MailState::Waiting)->count(),
            'mails' => $rows->orderByDesc('mails.id')->limit(self::MAILS)
                ->get(['mails.id', 'person_id', 'people.name', 'address', 'subject', 'body', 'file', 'state', 'tries', 'made_at',
                    'sent_at', 'says']),
        ]);
    }

    /** What will happen by itself, or has to be done, in the order of its time. */
    public function due(): View
    {
        $this->wholeOnly();

        return view('watch.due', ['events' => Due::next($this->person())]);
    }
}
