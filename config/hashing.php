<?php

declare(strict_types=1);

return [
    'driver' => 'bcrypt',
    'bcrypt' => ['rounds' => (int) env('BCRYPT_ROUNDS', 12), 'verify' => true],
    // A sign-in writes nothing: every write is an Action.
    'rehash_on_login' => false,
];
