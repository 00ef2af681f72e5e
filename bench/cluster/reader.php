<?php

declare(strict_types=1);

/* A person who signs in once and then looks at pages: reader.php SETTINGS.json NUMBER. */

$settings = json_decode((string) file_get_contents($argv[1]), true);
$jar = "{$settings['folder']}/jar-$argv[2]";
$log = "{$settings['folder']}/reader-$argv[2].log";
$ask = curl_init();
curl_setopt_array($ask, [
    CURLOPT_RETURNTRANSFER => true, CURLOPT_TIMEOUT => 40, CURLOPT_COOKIEJAR => $jar, CURLOPT_COOKIEFILE => $jar,
    CURLOPT_FORBID_REUSE => true,
]);
$get = static function (string $path, string $body = '') use ($ask, $settings): string {
    curl_setopt($ask, CURLOPT_URL, "{$settings['base']}/".ltrim($path, '/'));
    $body === '' ? curl_setopt($ask, CURLOPT_HTTPGET, true) : curl_setopt($ask, CURLOPT_POSTFIELDS, $body);

    return (string) curl_exec($ask);
};
preg_match('/name="_token" value="([^"]+)"/', $get('/sign-in'), $m);
$get('/sign-in', http_build_query(['_token' => $m[1] ?? '', 'sign_in' => $settings['person'], 'password' => $settings['password']]));
$pages = ['/', '/plan', '/name', "/plan/prefix/{$settings['subnets'][0]}", '/watch'];
for ($n = 0; ! is_file("{$settings['folder']}/stop"); $n++) {
    $at = microtime(true);
    $get($pages[$n % count($pages)]);
    $line = sprintf(
        "%.3f\t%.3f\t%d\t%s\t%s\n", $at, microtime(true) - $at, (int) curl_getinfo($ask, CURLINFO_RESPONSE_CODE),
        $pages[$n % count($pages)], (string) curl_getinfo($ask, CURLINFO_REDIRECT_URL),
    );
    file_put_contents($log, $line, FILE_APPEND);
    usleep(150_000);
}
