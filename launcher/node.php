<?php

declare(strict_types=1);

/*
 * Says over HTTP whether one node of the database may be asked: node.php PORT DATABASE-PORT SETTINGS. 200 where it is one of the majority
 * and knows everything (Galera: ready, Primary, Synced), else 503. After a failure it has to be sound for a while: one that was stopped
 * and goes on does not know at once what it missed.
 */

const SOUND_FOR = 3.0;

[, $port, $database, $settings] = $argv + ['', '0', '0', ''];
preg_match('/^DB_PASSWORD="(.*)"$/m', (string) file_get_contents($settings), $m);
$server = stream_socket_server("tcp://127.0.0.1:$port", $code, $message);
if ($server === false) {
    fwrite(STDERR, "$message\n");
    exit(1);
}
$pdo = null;
$failed = 0.0;
do {
    $asked = @stream_socket_accept($server, 3600);
    if ($asked === false) {
        continue;
    }
    stream_set_timeout($asked, 0, 300_000);
    fgets($asked);
    $before = microtime(true);
    try {
        $pdo ??= new PDO("mysql:host=127.0.0.1;port=$database", 'harbor', $m[1] ?? '', [
            PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION, PDO::ATTR_TIMEOUT => 1,
        ]);
        $rows = $pdo->query("SHOW STATUS WHERE Variable_name IN ('wsrep_ready', 'wsrep_cluster_status', 'wsrep_local_state')");
        $is = $rows === false ? [] : $rows->fetchAll(PDO::FETCH_KEY_PAIR);
        $sound = ($is['wsrep_cluster_status'] ?? '') === 'Primary' && ($is['wsrep_local_state'] ?? '') === '4'
            && ($is['wsrep_ready'] ?? '') === 'ON';
    } catch (PDOException) {
        $pdo = null;
        $sound = false;
    }
    $now = microtime(true);
    if (! $sound || $now - $before > 1.0) {
        $failed = $now;
    }
    $good = $sound && $now - $failed > SOUND_FOR;
    fwrite($asked, ($good ? 'HTTP/1.0 200 OK' : 'HTTP/1.0 503 Service Unavailable')."\r\nContent-Length: 0\r\n\r\n");
    fclose($asked);
} while (is_resource($server));
