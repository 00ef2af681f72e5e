<?php

declare(strict_types=1);

return [
    'default' => env('QUEUE_CONNECTION', 'database'),
    'connections' => [
        'sync' => ['driver' => 'sync'],
        'database' => [
            'driver' => 'database', 'connection' => null, 'table' => 'jobs', 'queue' => 'default', 'after_commit' => true,
            // Longer than the longest job: a job that still runs is not begun a second time. What a killed worker held is freed when the
            // next one starts.
            'retry_after' => 3900,
        ],
    ],
    'failed' => ['driver' => 'database-uuids', 'database' => 'mariadb', 'table' => 'failed_jobs'],
];
