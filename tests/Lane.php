<?php

declare(strict_types=1);

namespace Tests;

/** Tests run side by side in lanes: each has an instance of its own, with its database, its storage and its caches. */
final class Lane
{
    /** Instances by the number that the runner gives each process. */
    private const INSTANCES = ['1' => 'test', '2' => 'test-2'];

    /** Done before the application is made, which reads its settings by the name of its instance. */
    public static function choose(): void
    {
        // The framework would give each process a database on one server; a lane has a server of its own.
        unset($_SERVER['LARAVEL_PARALLEL_TESTING'], $_ENV['LARAVEL_PARALLEL_TESTING']);
        $name = self::INSTANCES[(string) getenv('TEST_TOKEN')] ?? 'test';
        $directory = dirname(__DIR__)."/var/$name";
        // What the runner read of its own instance must not go before what stands in this one's settings.
        foreach (is_file("$directory.env") ? file("$directory.env", FILE_IGNORE_NEW_LINES) : [] as $line) {
            [$setting] = explode('=', $line, 2);
            putenv($setting);
            unset($_ENV[$setting], $_SERVER[$setting]);
        }
        foreach ([
            'HPOST_INSTANCE' => $name, 'VIEW_COMPILED_PATH' => "$directory/cache/views", 'HARBOR_STORAGE' => "$directory/storage",
            'HARBOR_LOG' => "$directory/log", 'APP_CONFIG_CACHE' => "$directory/cache/config.php",
            'APP_ROUTES_CACHE' => "$directory/cache/routes.php", 'APP_EVENTS_CACHE' => "$directory/cache/events.php",
            'APP_SERVICES_CACHE' => "$directory/cache/services.php", 'APP_PACKAGES_CACHE' => "$directory/cache/packages.php",
        ] as $variable => $value) {
            putenv("$variable=$value");
            $_ENV[$variable] = $_SERVER[$variable] = $value;
        }
    }
}
