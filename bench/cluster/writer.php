<?php

declare(strict_types=1);

/*
 * One of many programs that place hosts over the balancer until they are told to stop: writer.php SETTINGS.json NUMBER. Each request has a
 * key of its own, and is sent again under it until it is answered. Every line of its log: when, how long it took, what was answered,
 * how often it had to be sent, name, address.
 */

$settings = json_decode((string) file_get_contents($argv[1]), true);
$number = (int) $argv[2];
$log = "{$settings['folder']}/writer-$number.log";
$ask = curl_init();
curl_setopt_array($ask, [
    CURLOPT_RETURNTRANSFER => true, CURLOPT_TIMEOUT => 40, CURLOPT_CONNECTTIMEOUT => 5, CURLOPT_FORBID_REUSE => true,
]);
/** @return array{int, array<mixed>} */
$call = static function (string $act, array $body, string $key) use ($ask, $settings): array {
    curl_setopt_array($ask, [
        CURLOPT_URL => "{$settings['base']}/api/v1/acts/$act", CURLOPT_POSTFIELDS => (string) json_encode($body), CURLOPT_HTTPHEADER => [
            "Authorization: Bearer {$settings['token']}", 'Content-Type: application/json', "Idempotency-Key: $key",
        ],
    ]);
    $text = curl_exec($ask);

    return [curl_errno($ask) === 0 ? (int) curl_getinfo($ask, CURLINFO_RESPONSE_CODE) : 0, (array) json_decode((string) $text, true)];
};
for ($n = 0; ! is_file("{$settings['folder']}/stop"); $n++) {
    $name = sprintf('trial-%d-%d', $number, $n);
    $subnet = $settings['subnets'][array_rand($settings['subnets'])];
    $begun = microtime(true);
    for ($tries = 1; ; $tries++) {
        $sent = microtime(true);
        [$status, $answer] = $call('place-host', ['prefix' => $subnet, 'name' => $name], "w$number-$n");
        $why = substr((string) strrchr((string) ($answer['type'] ?? ''), ':'), 1);
        $line = sprintf("%.3f\t%.3f\tsent\t%d\t%s\t%s\n", $sent, microtime(true) - $sent, $status, $name, $why);
        file_put_contents($log, $line, FILE_APPEND);
        if ($status !== 201 && $status !== 422 && microtime(true) - $begun < 90 && ! is_file("{$settings['folder']}/stop")) {
            usleep(300_000);

            continue;
        }
        break;
    }
    $address = $status === 201 ? explode(' ', (string) ($answer['written'][0]['line'] ?? ''))[0] : '';
    $line = sprintf(
        "%.3f\t%.3f\t%s\t%d\t%s\t%s\n",
        microtime(true), microtime(true) - $begun, $status === 201 ? 'told' : 'not', $status, $name, $address,
    );
    file_put_contents($log, $line, FILE_APPEND);
}
