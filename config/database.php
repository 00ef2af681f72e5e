<?php

declare(strict_types=1);

// With statements prepared by the server, an abort for another node's sake can go unsaid.
$options = [PDO::ATTR_EMULATE_PREPARES => true, PDO::MYSQL_ATTR_MULTI_STATEMENTS => false] + (
    env('DB_TLS_CA', '') === '' ? [] : [PDO::MYSQL_ATTR_SSL_CA => env('DB_TLS_CA'), PDO::MYSQL_ATTR_SSL_VERIFY_SERVER_CERT => true]
);
// Another node of a cluster answers what is only read, not before it knows everything that was written when it was asked.
$readers = [
    'host' => env('DB_READ_HOST', '') === '' ? env('DB_HOST', '127.0.0.1') : env('DB_READ_HOST'), 'port' => env('DB_READ_PORT'),
    'options' => $options + [PDO::MYSQL_ATTR_INIT_COMMAND => 'SET SESSION wsrep_sync_wait = 1'],
];

return [
    'default' => 'mariadb',
    'connections' => [
        'mariadb' => [
            'driver' => 'mariadb',
            'host' => env('DB_HOST', '127.0.0.1'),
            'port' => env('DB_PORT', '3306'),
            'database' => env('DB_DATABASE', 'harbor'),
            'username' => env('DB_USERNAME', 'root'),
            'password' => env('DB_PASSWORD', ''),
            'charset' => 'utf8mb4',
            'collation' => 'utf8mb4_unicode_ci',
            'prefix' => '',
            'strict' => true,
            'engine' => 'InnoDB',
            // Readers and takers of free addresses must see what others committed a moment ago, and gap locks would
            // make neighbours in one subnet wait for each other.
            'isolation_level' => 'READ COMMITTED',
            'options' => $options,
            'sticky' => true,
        ] + (env('DB_READ_PORT', '') === '' ? [] : ['read' => $readers, 'write' => []]),
    ],
    'migrations' => ['table' => 'migrations', 'update_date_on_publish' => false],
];
