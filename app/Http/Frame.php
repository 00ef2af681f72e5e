<?php

declare(strict_types=1);

namespace App\Http;

use App\Acts\Drafts\Drafts;
use App\Acts\Registry;
use App\Http\Middleware\SeesAs;
use App\Models\Notice;
use App\Models\Person;
use App\Queries\RoleLimits;
use App\Queries\Waiting;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\Crypt;

/** What the frame around every page tells the person who reads it. */
final readonly class Frame
{
    private function __construct(
        /** edits in the draft that theirs go to */
        public int $edits,
        /** drafts that wait for their word */
        public int $waits,
        /** notices that call */
        public int $calls,
        /** who looks, where they see this as somebody else does */
        public ?Person $looks,
        /** a secret that is shown once, and what it is */
        public ?string $once,
        public string $onceWords,
    ) {
    }

    /** Would an act be open to them, had a steward not taken it away from their role? Its form says so then. */
    public static function bars(string $action): bool
    {
        $me = Auth::user();
        $act = Registry::find($action);

        return $me instanceof Person && $act !== null && app(RoleLimits::class)->all() !== [] && $act::may($me) && ! $act::permits($me);
    }

    public static function of(Person $me): self
    {
        $looks = request()->attributes->get(SeesAs::BY);
        $once = session('once');
        $words = session('once-words');

        return new self(
            Drafts::open($me)?->edits->count() ?? 0,
            Waiting::drafts($me)->count(),
            Notice::callingFor($me),
            $looks instanceof Person ? $looks : null,
            is_string($once) ? (string) Crypt::decryptString($once) : null,
            is_string($words) ? $words : 'The password for one sign-in is',
        );
    }
}
