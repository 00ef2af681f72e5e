<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/** One running Harbor Post: its folder below var/, its ports, its processes, its settings. */
final class Instance
{
    public const STANDINS = ['lamp1' => ['dns', '10.32.0.53'], 'lamp2' => ['dns', '10.38.0.53'], 'lamp3' => ['resolver', '10.32.0.54'], 'mole1' => ['resolver', '198.51.100.54'], 'root1' => ['roots', '192.0.2.4'], 'tide1' => ['dhcp', '10.32.0.67'], 'tide2' => ['dhcp', '10.38.0.67'], 'keel1' => ['network', '10.32.0.9']];

    public readonly string $directory;

    public readonly Processes $processes;

    public readonly Ports $ports;

    public function __construct(public readonly string $root, public readonly string $name)
    {
        $this->directory = "$root/var/$name";
        foreach (['run', 'log', 'cache', 'standins'] as $folder) {
            is_dir("$this->directory/$folder") || mkdir("$this->directory/$folder", 0700, true);
        }
        chmod($this->directory, 0700);
        $this->processes = new Processes("$this->directory/run/processes.json");
        $this->ports = new Ports("$this->directory/ports.json");
    }

    /** @return array<string, string> what every PHP process of the instance gets */
    public function env(): array
    {
        return [
            'HPOST_INSTANCE' => $this->name, 'APP_CONFIG_CACHE' => "$this->directory/cache/config.php", 'APP_ROUTES_CACHE' => "$this->directory/cache/routes.php",
            'APP_EVENTS_CACHE' => "$this->directory/cache/events.php", 'VIEW_COMPILED_PATH' => "$this->directory/cache/views",
        ];
    }

    /** @param  list<string>  $arguments */
    public function artisan(array $arguments): string
    {
        return Say::quietly([PHP_BINARY, '-d', 'memory_limit=2G', 'artisan', ...$arguments], $this->root, $this->env());
    }

    /** Ends what a killed script left behind, and takes away data when asked. */
    public function clear(bool $fresh): void
    {
        $this->stop();
        if ($fresh) {
            foreach (['mysql', 'standins', 'cache'] as $folder) {
                exec('rm -rf '.escapeshellarg("$this->directory/$folder"));
            }
            is_dir("$this->directory/standins") || mkdir("$this->directory/standins", 0700);
        }
        // Compiled views are made anew: their times say nothing when the checkout was copied or went back to an older state.
        exec('rm -rf '.escapeshellarg("$this->directory/cache/views"));
        is_dir("$this->directory/cache/views") || mkdir("$this->directory/cache/views", 0700, true);
    }

    /** @param  array<string, string>  $more */
    public function writeSettings(array $more = []): void
    {
        $old = is_file("$this->root/var/$this->name.env") ? (string) file_get_contents("$this->root/var/$this->name.env") : '';
        $kept = static fn (string $key, string $new): string => preg_match("/^$key=(.+)$/m", $old, $m) === 1 ? trim($m[1], '"') : $new;
        $settings = $more + [
            'APP_ENV' => 'production', 'APP_KEY' => $kept('APP_KEY', 'base64:'.base64_encode(random_bytes(32))), 'APP_URL' => 'http://127.0.0.1:'.$this->ports->of('web'),
            'DB_HOST' => '127.0.0.1', 'DB_PORT' => (string) $this->ports->of('mariadb'), 'DB_USERNAME' => 'harbor', 'DB_PASSWORD' => $kept('DB_PASSWORD', bin2hex(random_bytes(16))),
            'SESSION_DRIVER' => 'database', 'CACHE_STORE' => 'database', 'QUEUE_CONNECTION' => 'database', 'LOG_CHANNEL' => 'single', 'HARBOR_STANDINS' => "$this->directory/standins.json",
        ];
        $text = '';
        foreach ($settings as $key => $value) {
            $text .= "$key=\"$value\"\n";
        }
        file_put_contents("$this->root/var/$this->name.env", $text);
        chmod("$this->root/var/$this->name.env", 0600);
    }

    /** Changes one setting; the ports, which are in use by now, stay. */
    public function set(string $key, string $value): void
    {
        $file = "$this->root/var/$this->name.env";
        file_put_contents($file, preg_replace("/^$key=.*$/m", "$key=\"$value\"", (string) file_get_contents($file)));
    }

    public function setting(string $key): string
    {
        preg_match("/^$key=\"(.*)\"$/m", (string) @file_get_contents("$this->root/var/$this->name.env"), $m);

        return $m[1] ?? '';
    }

    /** @param  list<string>  $extra */
    public function startDatabase(array $extra = []): void
    {
        (new Database($this->directory, "$this->directory/log", $this->processes))->start($this->ports->known('mariadb') ?? $this->ports->of('mariadb'), $this->setting('DB_PASSWORD'), $extra);
    }

    public function startStandins(): void
    {
        $file = "$this->directory/standins.json";
        $old = is_file($file) ? (array) json_decode((string) file_get_contents($file), true) : [];
        $settings = [];
        foreach (self::STANDINS as $name => [$kind, $address]) {
            $settings[$name] = [
                'kind' => $kind, 'port' => $this->ports->of($name), 'control' => $this->ports->of("$name-control"), 'token' => $old[$name]['token'] ?? bin2hex(random_bytes(16)),
                'directory' => "$this->directory/standins/$name", 'identifier' => $address, 'forward' => null,
            ];
        }
        file_put_contents($file, json_encode($settings, JSON_PRETTY_PRINT));
        chmod($file, 0600);
        foreach (array_keys(self::STANDINS) as $name) {
            $this->processes->start($name, [PHP_BINARY, 'standins/run.php', $file, $name], "$this->directory/log/$name.log", $this->root);
        }
    }

    public function startWeb(): void
    {
        $fpm = $this->ports->of('fpm');
        $web = $this->ports->known('web') ?? $this->ports->of('web');
        $run = "$this->directory/run";
        $log = "$this->directory/log";
        $env = implode("\n", array_map(fn (string $k, string $v): string => "env[$k] = \"$v\"", array_keys($this->env()), $this->env()));
        $root = posix_geteuid() === 0;
        file_put_contents("$run/fpm.conf", "[global]\nerror_log = $log/fpm.log\ndaemonize = no\n[www]\n".($root ? "user = root\ngroup = root\n" : '')."listen = 127.0.0.1:$fpm\npm = static\npm.max_children = 8\npm.max_requests = 2000\ncatch_workers_output = yes\nclear_env = no\n$env\nphp_admin_value[memory_limit] = 512M\nphp_admin_value[upload_max_filesize] = 128M\nphp_admin_value[post_max_size] = 130M\nphp_admin_value[max_input_vars] = 20000\nphp_admin_value[opcache.memory_consumption] = 192\nphp_admin_value[opcache.max_accelerated_files] = 20000\nphp_admin_value[error_log] = $log/php.log\nphp_admin_flag[display_errors] = off\n");
        $temp = implode('', array_map(fn (string $k): string => "    {$k}_temp_path $run/$k;\n", ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi']));
        file_put_contents("$run/nginx.conf", ($root ? "user root;\n" : '')."worker_processes 1;\ndaemon off;\npid $run/nginx.pid;\nerror_log $log/nginx.log warn;\nevents { worker_connections 512; }\nhttp {\n    include /etc/nginx/mime.types;\n    types { font/woff2 woff2; }\n    access_log off;\n    sendfile on;\n    gzip on;\n    gzip_types text/css application/javascript image/svg+xml;\n    server_tokens off;\n    client_max_body_size 128m;\n$temp    server {\n        listen 127.0.0.1:$web;\n        root $this->root/public;\n        index index.php;\n        location /build/ { add_header Cache-Control \"public, max-age=31536000, immutable\"; try_files \$uri =404; }\n        location / { try_files \$uri /index.php?\$query_string; }\n        location = /index.php {\n            include /etc/nginx/fastcgi_params;\n            fastcgi_param HTTP_HOST \$host:\$server_port;\n            fastcgi_param SCRIPT_FILENAME $this->root/public/index.php;\n            fastcgi_pass 127.0.0.1:$fpm;\n            fastcgi_read_timeout 120s;\n            fastcgi_buffers 16 64k;\n            fastcgi_buffer_size 64k;\n        }\n    }\n}\n");
        $this->processes->start('php-fpm', [(string) Packages::program('php-fpm8.2'), '-F', '-y', "$run/fpm.conf", ...($root ? ['-R'] : [])], "$log/fpm.out", $this->root);
        $this->processes->start('nginx', [(string) Packages::program('nginx'), '-c', "$run/nginx.conf", '-p', $run, '-e', "$log/nginx.log"], "$log/nginx.out", $this->root);
    }

    public function startWorkers(): void
    {
        $this->startWorker('queue', ['queue:work', '--sleep=1', '--tries=3', '--timeout=3600', '--memory=512']);
        $this->startWorker('scheduler', ['schedule:work']);
    }

    /** @param  list<string>  $arguments */
    public function startWorker(string $name, array $arguments): void
    {
        $this->processes->start($name, [PHP_BINARY, '-d', 'memory_limit=1G', 'artisan', ...$arguments], "$this->directory/log/$name.log", $this->root, $this->env());
    }

    public function awaitPage(): void
    {
        $url = "http://127.0.0.1:{$this->ports->known('web')}/sign-in";
        $context = stream_context_create(['http' => ['timeout' => 5, 'ignore_errors' => true, 'follow_location' => 0]]);
        for ($until = microtime(true) + 30; microtime(true) < $until; usleep(100000)) {
            $page = @file_get_contents($url, false, $context);
            $status = $http_response_header[0] ?? '';
            if ($page !== false && preg_match('/ (200|302) /', $status.' ') === 1) {
                return;
            }
            if ($page !== false && str_contains($status, '500')) {
                break;
            }
        }
        throw new Trouble("The first page does not answer at $url. The logs are in $this->directory/log and storage/logs.");
    }

    public function stop(): void
    {
        foreach (['nginx', 'scheduler', 'queue', 'php-fpm', ...array_keys(self::STANDINS)] as $name) {
            $this->processes->end($name, 8);
        }
        $this->processes->end('mariadb', 30);
    }
}
