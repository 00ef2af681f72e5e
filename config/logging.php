<?php

declare(strict_types=1);

// Below the instance's own folder, kept for a week.
return [
    // What the web server writes of each request: its verb, its status and its seconds.
    'requests' => env('HARBOR_LOG', storage_path('logs')).'/requests.log',
    // What cannot be written down, since a disk is full, stops nobody's work.
    'default' => 'kept',
    'channels' => [
        'kept' => ['driver' => 'stack', 'channels' => [env('LOG_CHANNEL', 'daily')], 'ignore_exceptions' => true],
        'daily' => [
            'driver' => 'daily', 'path' => env('HARBOR_LOG', storage_path('logs')).'/harbor.log', 'level' => 'warning', 'days' => 7,
            'permission' => 0600,
        ],
        'json' => [
            'driver' => 'daily', 'path' => env('HARBOR_LOG', storage_path('logs')).'/harbor.json', 'level' => 'warning', 'days' => 7,
            'permission' => 0600, 'formatter' => Monolog\Formatter\JsonFormatter::class,
        ],
        'null' => ['driver' => 'monolog', 'handler' => Monolog\Handler\NullHandler::class],
        'emergency' => ['path' => env('HARBOR_LOG', storage_path('logs')).'/emergency.log'],
    ],
];
