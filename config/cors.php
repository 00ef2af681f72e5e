<?php

declare(strict_types=1);

// No other origin is ever allowed: browsers reach Harbor Post under its own name only.
return [
    'paths' => [], 'allowed_methods' => [], 'allowed_origins' => [], 'allowed_origins_patterns' => [], 'allowed_headers' => [],
    'exposed_headers' => [], 'max_age' => 0, 'supports_credentials' => false,
];
