<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/** One running Harbor Post: its folder below var/, its ports, its processes, its settings. */
final class Instance
{
    public const STANDINS = [
        'lamp1' => ['dns', '10.32.0.53'], 'lamp2' => ['dns', '10.38.0.53'], 'lamp3' => ['resolver', '10.32.0.54'],
        'mole1' => ['resolver', '198.51.100.54'], 'root1' => ['roots', '192.0.2.4'], 'tide1' => ['dhcp', '10.32.0.67'],
        'tide2' => ['dhcp', '10.38.0.67'], 'tide3' => ['dhcp', '10.36.0.67'], 'keel1' => ['network', '10.32.0.9'],
        'buoy1' => ['controller', '10.32.0.20'], 'post1' => ['mailbox', '10.32.0.25'], 'flag1' => ['provider', '10.32.0.26'],
        'reef1' => ['dns', '203.0.113.53'],
    ];

    /** Lanes in which shipments run: one worker each. */
    public const LANES = 3;

    /** A Unix socket's path may have 107 bytes. */
    private const SOCKET_PATH = 90;

    public readonly string $directory;

    public readonly Processes $processes;

    public readonly Ports $ports;

    public readonly Account $account;

    public function __construct(public readonly string $root, public readonly string $name)
    {
        $this->directory = "$root/var/$name";
        foreach (
            [
                'run', 'log', 'cache', 'standins', 'storage/app/imports', 'storage/framework/cache', 'storage/framework/views',
                'storage/logs',
            ] as $folder
        ) {
            is_dir("$this->directory/$folder") || mkdir("$this->directory/$folder", 0700, true);
        }
        chmod($this->directory, 0700);
        $this->processes = new Processes("$this->directory/run/processes.json");
        $this->ports = new Ports("$this->directory/ports.json");
        $this->account = Account::of($root);
    }

    /** Gives the account what it reads and writes; called whenever files were made for it. */
    public function handOver(): void
    {
        if ($this->account->uid !== null) {
            chown("$this->root/var", $this->account->uid);
            $this->account->own($this->directory, "$this->root/var/$this->name.env");
            // The keeper's and root's passwords are not for the application.
            if (is_file($this->keysFile())) {
                chown($this->keysFile(), 0);
                chgrp($this->keysFile(), 0);
            }
        }
    }

    /** @return array<string, string> what every PHP process of the instance gets */
    public function env(): array
    {
        return [
            'HPOST_INSTANCE' => $this->name,
            'APP_CONFIG_CACHE' => "$this->directory/cache/config.php",
            'APP_ROUTES_CACHE' => "$this->directory/cache/routes.php",
            'APP_EVENTS_CACHE' => "$this->directory/cache/events.php",
            'APP_SERVICES_CACHE' => "$this->directory/cache/services.php",
            'APP_PACKAGES_CACHE' => "$this->directory/cache/packages.php",
            'VIEW_COMPILED_PATH' => "$this->directory/cache/views",
            'HARBOR_STORAGE' => "$this->directory/storage",
            'HARBOR_LOG' => "$this->directory/log",
        ];
    }

    /** Where sockets stand: in the instance's own folder, or, where its path is too long for one, in a private folder elsewhere. */
    public function sockets(): string
    {
        $folder = "$this->directory/run";
        if (strlen($folder) > self::SOCKET_PATH) {
            $folder = sys_get_temp_dir().'/hpost-'.substr(hash('sha256', $this->directory), 0, 12);
            is_dir($folder) || mkdir($folder, 0700);
            chmod($folder, 0700);
            $this->account->own($folder);
        }

        return $folder;
    }

    private function keysFile(): string
    {
        return "$this->directory/keys.json";
    }

    /** @return array{app: string, keeper: string, root: string} passwords of the database's accounts */
    private function keys(): array
    {
        $file = $this->keysFile();
        $keys = is_file($file) ? (array) json_decode((string) file_get_contents($file), true) : [];
        $keys += ['keeper' => bin2hex(random_bytes(16)), 'root' => bin2hex(random_bytes(16))];
        touch($file);
        chmod($file, 0600);
        file_put_contents($file, json_encode($keys));

        return ['app' => $this->setting('DB_PASSWORD'), 'keeper' => (string) $keys['keeper'], 'root' => (string) $keys['root']];
    }

    /**
     * @param  list<string>  $arguments
     * @param  array<string, string>  $env
     */
    public function artisan(array $arguments, array $env = []): string
    {
        $this->handOver();

        return Say::quietly(
            [...$this->account->prefix(), PHP_BINARY, '-d', 'memory_limit=2G', 'artisan', ...$arguments],
            $this->root,
            $env + $this->env(),
        );
    }

    /** Tables are made by the keeper, never by the application's own account. */
    public function migrate(): void
    {
        // What an earlier start had cached would go before the keeper's name.
        foreach (['config.php', 'routes.php', 'events.php'] as $cache) {
            @unlink("$this->directory/cache/$cache");
        }
        $keeper = ['DB_USERNAME' => Database::KEEPER, 'DB_PASSWORD' => $this->keys()['keeper']];
        // A database that a newer version has moved on is left alone.
        $this->artisan(['schema:fits'], $keeper);
        $this->artisan(['migrate', '--force'], $keeper);
        $this->database()->grant($this->ports->known('mariadb') ?? 0, $this->keys()['keeper']);
    }

    private function database(): Database
    {
        return new Database($this->directory, "$this->directory/log", $this->processes, $this->account, $this->sockets());
    }

    /** Ends what a killed script left behind, and takes away data when asked. */
    public function clear(bool $fresh): void
    {
        $this->stop();
        if ($fresh) {
            // The file of heads tells of a history that goes with it.
            foreach (['mysql', 'standins', 'cache', 'storage/app'] as $folder) {
                exec('rm -rf '.escapeshellarg("$this->directory/$folder"));
            }
            foreach (['standins', 'storage/app/imports'] as $folder) {
                is_dir("$this->directory/$folder") || mkdir("$this->directory/$folder", 0700, true);
            }
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
            'APP_ENV' => 'production',
            'APP_KEY' => $kept('APP_KEY', 'base64:'.base64_encode(random_bytes(32))),
            'APP_PREVIOUS_KEYS' => $kept('APP_PREVIOUS_KEYS', ''),
            'APP_URL' => (($more['HARBOR_TLS'] ?? '') === 'true' ? 'https' : 'http').'://127.0.0.1:'.$this->ports->of('web'),
            'DB_HOST' => '127.0.0.1', 'DB_PORT' => (string) $this->ports->of('mariadb'), 'DB_USERNAME' => 'harbor',
            'DB_PASSWORD' => $kept('DB_PASSWORD', bin2hex(random_bytes(16))),
            'SESSION_DRIVER' => 'database', 'CACHE_STORE' => 'database', 'QUEUE_CONNECTION' => 'database', 'LOG_CHANNEL' => 'daily',
            'HARBOR_HOSTS' => $kept('HARBOR_HOSTS', '127.0.0.1 localhost'), 'HARBOR_TLS' => 'false',
            'HARBOR_STANDINS' => "$this->directory/standins.json",
            'HARBOR_NAMES' => $this->handsOut($more),
            'HARBOR_OIDC_ISSUER' => ($more['HARBOR_DEMO'] ?? '') === 'true' ? 'http://127.0.0.1:'.$this->ports->of('flag1') : '',
            'HARBOR_OIDC_NAME' => ($more['HARBOR_DEMO'] ?? '') === 'true' ? 'Kittiwake' : '',
            'HARBOR_MAIL' => ($more['HARBOR_DEMO'] ?? '') === 'true' ? 'smtp://127.0.0.1:'.$this->ports->of('post1') : '',
        ];
        $text = '';
        foreach ($settings as $key => $value) {
            $text .= "$key=\"$value\"\n";
        }
        file_put_contents("$this->root/var/$this->name.env", $text);
        chmod("$this->root/var/$this->name.env", 0600);
    }

    /**
     * In service only where it is set; on loopback always, so that it can be seen.
     *
     * @param  array<string, string>  $more
     */
    private function handsOut(array $more): string
    {
        $here = ($more['APP_ENV'] ?? '') === 'testing' ? '' : '127.0.0.1:'.$this->ports->of('names');

        return $more['HARBOR_NAMES'] ?? $here;
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

    /** By the socket alone: what takes backups and brings them back. */
    public function rootPassword(): string
    {
        return $this->keys()['root'];
    }

    /** @param  list<string>  $extra */
    public function startDatabase(array $extra = [], bool $whole = false): void
    {
        $this->handOver();
        $this->database()->start($this->ports->known('mariadb') ?? $this->ports->of('mariadb'), $this->keys(), $extra, $whole);
    }

    public function startStandins(): void
    {
        $file = "$this->directory/standins.json";
        $old = is_file($file) ? (array) json_decode((string) file_get_contents($file), true) : [];
        $settings = [];
        foreach (self::STANDINS as $name => [$kind, $address]) {
            $settings[$name] = [
                'kind' => $kind, 'port' => $this->ports->of($name), 'control' => $this->ports->of("$name-control"),
                'token' => $old[$name]['token'] ?? bin2hex(random_bytes(16)),
                'directory' => "$this->directory/standins/$name", 'identifier' => $address, 'forward' => null,
            ];
        }
        file_put_contents($file, json_encode($settings, JSON_PRETTY_PRINT));
        chmod($file, 0600);
        $this->handOver();
        foreach (array_keys(self::STANDINS) as $name) {
            $this->startStandin($name);
        }
    }

    public function startStandin(string $name): void
    {
        $this->processes->start(
            $name,
            [...$this->account->prefix(), PHP_BINARY, 'standins/run.php', "$this->directory/standins.json", $name],
            "$this->directory/log/$name.log",
            $this->root,
        );
    }

    public function startWeb(?Settings $settings = null): void
    {
        $web = $this->ports->known('web') ?? $this->ports->of('web');
        $tls = $this->setting('HARBOR_TLS') === 'true';
        [$certificate, $key] = match (true) {
            ! $tls => ['', ''],
            $settings !== null => [$settings->get('TLS_CERTIFICATE'), $settings->get('TLS_KEY')],
            default => [$this->certificate().'.crt', $this->certificate().'.key'],
        };
        $address = $settings === null ? '127.0.0.1' : $settings->get('ADDRESS');
        $address = str_contains($address, ':') ? "[$address]" : $address;
        $env = implode("\n", array_map(fn (string $k, string $v): string => "env[$k] = \"$v\"", array_keys($this->env()), $this->env()));
        $values = [
            '{packets}' => self::packets($this->root, $this->sockets()),
            '{log}' => "$this->directory/log", '{run}' => $this->sockets(), '{env}' => $env, '{root}' => $this->root,
            '{listen}' => "$address:$web", '{hosts}' => $this->setting('HARBOR_HOSTS'), '{ssl}' => $tls ? ' ssl' : '',
            '{https}' => $tls ? 'on' : "''",
            '{tls}' => $tls
                ? "        ssl_certificate $certificate;\n        ssl_certificate_key $key;\n"
                    .'        ssl_protocols TLSv1.2 TLSv1.3;'
                : '',
        ];
        foreach (['fpm', 'nginx'] as $name) {
            file_put_contents(
                "$this->directory/run/$name.conf",
                strtr((string) file_get_contents("$this->root/launcher/templates/$name.conf"), $values),
            );
        }
        $this->handOver();
        $this->startFpm();
        $this->startNginx();
    }

    /** The pages that send packets to servers, as the web server tells them from others. */
    public static function packets(string $root, string $sockets): string
    {
        return implode("\n", array_map(
            static fn (string $page): string => "        ~$page unix:$sockets/packets.sock;", require "$root/config/packets.php",
        ));
    }

    public function startFpm(): void
    {
        $root = posix_geteuid() === 0 && $this->account->uid === null ? ['-R'] : [];
        foreach (['fpm.sock', 'packets.sock'] as $socket) {
            @unlink("{$this->sockets()}/$socket");
        }
        $this->processes->start(
            'php-fpm',
            [...$this->account->prefix(), (string) Packages::program('php-fpm8.2'), '-F', '-y', "$this->directory/run/fpm.conf", ...$root],
            "$this->directory/log/fpm.out",
            $this->root,
        );
    }

    public function startNginx(): void
    {
        $run = "$this->directory/run";
        $asRoot = posix_geteuid() === 0 && $this->account->uid === null ? ['-g', 'user root;'] : [];
        $this->processes->start(
            'nginx',
            [
                ...$this->account->prefix(), (string) Packages::program('nginx'), '-c', "$run/nginx.conf", '-p', $run, '-e',
                "$this->directory/log/nginx.log", ...$asRoot,
            ],
            "$this->directory/log/nginx.out",
            $this->root,
        );
    }

    /** A certificate of the instance's own, for a year; made once. */
    private function certificate(): string
    {
        $base = "$this->directory/tls/own";
        if (
            ! is_file("$base.crt") || (openssl_x509_parse((string) file_get_contents("$base.crt"))['validTo_time_t'] ?? 0) < time() + 86400
        ) {
            is_dir("$this->directory/tls") || mkdir("$this->directory/tls", 0700);
            $settings = "$this->directory/tls/request.cnf";
            file_put_contents(
                $settings,
                "[req]\ndistinguished_name = dn\n[dn]\n[own]\nsubjectAltName = DNS:localhost, IP:127.0.0.1\nbasicConstraints = CA:FALSE\n",
            );
            $options = [
                'config' => $settings, 'digest_alg' => 'sha256', 'x509_extensions' => 'own', 'private_key_type' => OPENSSL_KEYTYPE_EC,
                'curve_name' => 'prime256v1',
            ];
            $key = openssl_pkey_new($options);
            $request = $key === false ? false : openssl_csr_new(['commonName' => 'localhost'], $key, $options);
            $signed = $request instanceof \OpenSSLCertificateSigningRequest
                && $key !== false ? openssl_csr_sign($request, null, $key, 365, $options, random_int(1, PHP_INT_MAX)) : false;
            if (
                $key === false
                    || $signed === false
                    || ! openssl_x509_export_to_file($signed, "$base.crt")
                    || ! openssl_pkey_export_to_file($key, "$base.key", null, $options)
            ) {
                throw new Trouble('The certificate could not be made: '.openssl_error_string());
            }
            chmod("$base.key", 0600);
        }

        return $base;
    }

    public function startWorkers(): void
    {
        foreach (self::workers() as $name => $arguments) {
            $wanted = $name !== 'names' || $this->setting('HARBOR_NAMES') !== '';
            if ($wanted && ! $this->processes->isAlive($name)) {
                $this->startWorker($name, $arguments);
            }
        }
    }

    /**
     * @return array<string, list<string>> name → console command; one worker a queue, on all machines together
     */
    public static function workers(): array
    {
        $workers = ['queue' => ['work', 'default'], 'scheduler' => ['work', 'clockwork'], 'names' => ['names']];
        for ($lane = 0; $lane < self::LANES; $lane++) {
            $workers["lane$lane"] = ['work', "ship-$lane"];
        }

        return $workers;
    }

    /** @param  list<string>  $arguments */
    public function startWorker(string $name, array $arguments): void
    {
        $this->processes->start(
            $name,
            [...$this->account->prefix(), PHP_BINARY, '-d', 'memory_limit=1G', 'artisan', ...$arguments],
            "$this->directory/log/$name.log",
            $this->root,
            $this->env(),
        );
    }

    /**
     * Starts again what has ended.
     *
     * @param  list<string>  $database  how the database was started
     */
    public function restart(string $name, array $database = []): void
    {
        match (true) {
            $name === 'mariadb' => $this->startDatabase($database),
            $name === 'php-fpm' => $this->startFpm(),
            $name === 'nginx' => $this->startNginx(),
            isset(self::STANDINS[$name]) => $this->startStandin($name),
            isset(self::workers()[$name]) => $this->startWorker($name, self::workers()[$name]),
            default => null,
        };
    }

    /** Where people reach it. */
    public function address(): string
    {
        return ($this->setting('HARBOR_TLS') === 'true' ? 'https' : 'http')."://127.0.0.1:{$this->ports->known('web')}";
    }

    public function awaitPage(): void
    {
        $url = $this->address().'/sign-in';
        $context = stream_context_create([
            'ssl' => ['verify_peer' => false, 'verify_peer_name' => false],
            'http' => ['timeout' => 5, 'ignore_errors' => true, 'follow_location' => 0],
        ]);
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
        throw new Trouble("The first page does not answer at $url. The logs are in $this->directory/log.");
    }

    public function stop(): void
    {
        // All are asked at once, and then waited for one after the other.
        array_map($this->processes->ask(...), ['nginx', ...array_keys(self::workers())]);
        foreach (['nginx', ...array_keys(self::workers()), 'php-fpm', ...array_keys(self::STANDINS)] as $name) {
            $this->processes->end($name, 8);
        }
        $this->processes->end('mariadb', 30);
    }
}
