<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Illuminate\Session\Middleware\StartSession;

/**
 * The session is not written back by requests for a part of a page: one that is still under way when a form is sent would put its older
 * copy over what the form left there, and the word that it was done would be lost. It is written now and then, so that it stays alive.
 */
final class KeepSession extends StartSession
{
    /** Seconds after which a request for a part writes all the same. */
    private const ALIVE = 600;

    /** Attribute of a request for a part that did something: what it left in the session is kept. */
    public const KEEP = 'harbor.keep-session';

    protected function saveSession($request): void
    {
        $session = $request->session();
        $kept = $session->get('kept_at');
        if (! $request->attributes->has(self::KEEP) && $request->hasHeader('HX-Request') && is_int($kept) && time() - $kept < self::ALIVE) {
            return;
        }
        $session->put('kept_at', time());
        parent::saveSession($request);
    }
}
