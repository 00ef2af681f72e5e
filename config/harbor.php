<?php

declare(strict_types=1);

return [
    // Shows the sign-ins of the demo scenario on the sign-in page.
    'demo' => (bool) env('HARBOR_DEMO', false),

    // Where the stand-ins keep their state and their ports: written by the start script.
    'standins' => env('HARBOR_STANDINS'),

    // Seconds a question to a server may take before it counts as unanswered.
    'patience' => 3.0,

    'acts' => [
        // Seconds in which a lost race is tried again.
        'patience' => 3.0,
        // Seconds a rehearsal waits for somebody else's lock.
        'rehearsal_wait' => 2,
    ],

    // A subnet fuller than this percentage carries a warning.
    'high_water' => 80,
];
