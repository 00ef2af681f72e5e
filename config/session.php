<?php

declare(strict_types=1);

return [
    'driver' => env('SESSION_DRIVER', 'database'),
    // Minutes without use after which a session ends; the longest a session lasts is harbor.session.longest.
    'lifetime' => 120,
    'table' => 'sessions',
    // A name that begins with __Host- is kept to this host and to TLS by the browser itself.
    'cookie' => env('HARBOR_TLS', false) ? '__Host-harbor' : 'harbor_session',
    'secure' => (bool) env('HARBOR_TLS', false),
    'path' => '/',
    'domain' => null,
    'http_only' => true,
    'same_site' => 'lax',
];
