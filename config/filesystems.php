<?php

declare(strict_types=1);

// Files of the application are never served from an address of their own.
return [
    'disks' => [
        'local' => ['driver' => 'local', 'root' => storage_path('app/private'), 'serve' => false, 'throw' => true],
    ],
];
