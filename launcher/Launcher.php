<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

use HarborPost\Bench\Trial;

/** What the words of the script do. */
final class Launcher
{
    private bool $over = false;

    public function __construct(private readonly string $root)
    {
        is_dir("$root/var") || mkdir("$root/var", 0700);
    }

    /** @param  list<string>  $arguments */
    public function run(array $arguments): int
    {
        $word = array_shift($arguments) ?? 'help';
        try {
            return match ($word) {
                'demo' => $this->demo($arguments),
                'serve' => $this->serve($arguments),
                'cluster' => $this->cluster($arguments),
                'doctor' => $this->doctor($arguments),
                'settings' => $this->settings($arguments),
                'units' => $this->units($arguments),
                'backup' => $this->backup($arguments),
                'restore' => $this->restore($arguments),
                'rekey' => $this->rekey($arguments),
                'release' => (new Release($this->root))->make($arguments[0] ?? "$this->root/var"),
                'stop' => $this->stop($arguments),
                'status' => $this->status($arguments),
                'completion' => $this->completion(),
                'test' => (new Tests($this->root))->run($arguments),
                'bench' => $this->console('bench', $arguments, bench: true),
                'help', '--help', '-h' => $this->help(),
                default => $this->console($word, $arguments),
            };
        } catch (Trouble $e) {
            fwrite(STDERR, $e->getMessage()."\n");

            return 1;
        }
    }

    private function help(): int
    {
        Say::line(<<<'TEXT'
            ./hpost demo [--port N] [--fresh] [--empty] [--tls]   start everything; Ctrl-C ends it
            ./hpost stop                                  end it from another terminal
            ./hpost status                                what runs, where, since when
            ./hpost test                                  all tests
            ./hpost serve [--settings FILE]               in service: own data, no demo; as its unit starts it
            ./hpost cluster [status|stop|try] [--fresh]   the demo on three nodes of the database and two machines
            ./hpost doctor                                what is wrong with an installation, and how to mend it
            ./hpost settings                              every setting with its reason; units: those of systemd
            ./hpost backup [--log] [--make-key FILE]      while people work, sealed, read back
            ./hpost restore FILE --key FILE [--until T]   into an empty installation
            ./hpost rekey                                 another key for the secrets at rest; while it does not run
            ./hpost release [FOLDER]                      one archive with everything built
            ./hpost bench [--fill]                        measure, as ratios to floors of the same run
            ./hpost completion                            for the shell: source <(./hpost completion)
            ./hpost COMMAND …                             any console command; "./hpost list" names them
            TEXT);

        return 0;
    }

    /** For bash: what may be typed next, asked of the application while one types. */
    private function completion(): int
    {
        $own = 'demo stop status test serve cluster doctor settings units backup restore rekey release bench completion help';
        Say::line(rtrim(strtr((string) file_get_contents("$this->root/launcher/templates/completion.bash"), ['{words}' => $own])));

        return 0;
    }

    /** @param  list<string>  $arguments */
    private function demo(array $arguments): int
    {
        $options = $this->options(
            $arguments,
            ['--port' => true, '--fresh' => false, '--empty' => false, '--tls' => false, '--instance' => true],
        );
        $instance = new Instance($this->root, $options['--instance'] ?? 'demo');
        if ($instance->processes->isAlive('hpost')) {
            throw new Trouble("Harbor Post runs already at {$instance->address()} . \"./hpost stop\" ends it.");
        }
        (new Packages($this->root))->ensure(false);
        $instance->clear(isset($options['--fresh']));
        isset($options['--port']) && $instance->ports->demand('web', (int) $options['--port']);

        return $this->stay(
            $instance,
            fn () => $this->start($instance, isset($options['--empty']), isset($options['--tls'])),
            [new Keeper($instance, static fn (string $name) => $instance->restart($name))],
            $instance->stop(...),
        );
    }

    /**
     * Starts everything and stays until it is told to end; then all of it is ended in order.
     *
     * @param  \Closure(): void  $start
     * @param  list<Keeper>  $keepers  who start again what has ended meanwhile
     * @param  \Closure(): void  $stop
     */
    private function stay(Instance $instance, \Closure $start, array $keepers, \Closure $stop): int
    {
        $instance->processes->remember('hpost', (int) getmypid());
        foreach ([SIGINT, SIGTERM, SIGHUP] as $signal) {
            pcntl_signal($signal, function (): void {
                $this->over = true;
            });
        }
        pcntl_async_signals(true);
        try {
            $start();
            while (! $this->over) {
                usleep(400_000);
                array_walk($keepers, static fn (Keeper $k) => $k->look());
            }
        } finally {
            Say::line('ending …');
            $stop();
            $instance->processes->forget('hpost');
        }

        return 0;
    }

    private function start(Instance $instance, bool $empty, bool $tls): void
    {
        $begun = microtime(true);
        // An installation that was begun empty stays one, whatever it is started with later.
        $demo = is_dir("$instance->directory/mysql/mysql") ? $instance->setting('HARBOR_DEMO') : '';
        $instance->writeSettings([
            'HARBOR_DEMO' => $demo !== '' ? $demo : ($empty ? 'false' : 'true'),
            'HARBOR_TLS' => $tls ? 'true' : 'false',
        ]);
        if ($instance->account->why !== '') {
            Say::line("  Everything runs as root: {$instance->account->why}.");
        }
        $this->check();
        $instance->startDatabase();
        $this->check();
        $instance->startStandins();
        $instance->migrate();
        // Before the scenario is loaded, which ships to it.
        $instance->startWorker('names', Instance::workers()['names']);
        $this->check();
        $people = (int) trim($instance->artisan(['people:count']));
        if ($people === 0 && ! $empty) {
            $instance->set('HARBOR_DEMO', 'true');
            Say::step('loading the demo scenario', fn () => $instance->artisan(['demo:load']));
        }
        $instance->artisan(['standins:point']);
        $instance->artisan(['config:cache']);
        $instance->artisan(['route:cache']);
        $this->check();
        $instance->startWeb();
        $instance->awaitPage();
        $instance->startWorkers();
        Say::line('');
        Say::line("Harbor Post: {$instance->address()}".sprintf('   (ready after %.0f s)', microtime(true) - $begun));
        $people === 0 && $empty
            ? Say::line('The first page makes the first person.')
            : (
                $instance->setting('HARBOR_DEMO') === 'true'
                    ? Say::line(
                        "Sign in as maren (planner), ilke (operator), tobin (approver), quill (a tenant's admin), wick (reader) "
                            .'or sable (steward); the password is  harbour-demo',
                    )
                    : null
            );
        Say::line('Ctrl-C or "./hpost stop" ends it.');
    }

    /**
     * An installation in service: settings from a file, its own data or a database that is there, no stand-ins and no demo.
     *
     * @param  list<string>  $arguments
     */
    private function serve(array $arguments): int
    {
        $options = $this->options($arguments, ['--settings' => true, '--instance' => true]);
        $settings = Settings::read($options['--settings'] ?? $this->settingsFile());
        $instance = new Instance($this->root, $options['--instance'] ?? 'serve');
        if ($instance->processes->isAlive('hpost')) {
            throw new Trouble("Harbor Post runs already at {$instance->address()} . \"./hpost stop --instance serve\" ends it.");
        }
        (new Packages($this->root))->ensure(false);
        $instance->clear(false);
        $instance->ports->demand('web', (int) $settings->get('PORT'));

        return $this->stay(
            $instance,
            fn () => $this->startService($instance, $settings),
            [new Keeper($instance, static fn (string $name) => $instance->restart($name, self::database($settings)))],
            $instance->stop(...),
        );
    }

    private function startService(Instance $instance, Settings $settings): void
    {
        $instance->writeSettings($settings->forApplication());
        $settings->ownDatabase() && $instance->startDatabase(self::database($settings));
        $this->moveOn($instance, $settings);
        $this->check();
        $code = $this->firstCode($instance);
        foreach (['config', 'route', 'event'] as $what) {
            $instance->artisan(["$what:cache"]);
        }
        $instance->startWeb($settings);
        $instance->awaitPage();
        $instance->startWorkers();
        Say::line('Harbor Post: '.$instance->setting('APP_URL'));
        $code === null || Say::line("The first page makes the first person; it asks for the code  $code");
    }

    /**
     * The demo on several machines.
     *
     * @param  list<string>  $arguments
     */
    private function cluster(array $arguments): int
    {
        $word = in_array($arguments[0] ?? '', ['status', 'stop', 'try'], true) ? array_shift($arguments) : 'start';
        $options = $this->options($arguments, ['--port' => true, '--fresh' => false, '--empty' => false]);
        $cluster = new Cluster($this->root);
        $runs = $cluster->instance->processes->isAlive('hpost');
        if ($word === 'status') {
            return $cluster->status();
        }
        if ($word === 'stop') {
            $cluster->instance->processes->end('hpost', 90);
            $cluster->stop();
            Say::line($runs ? 'Ended.' : 'Nothing of it ran.');

            return 0;
        }
        if ($runs) {
            throw new Trouble("It runs already at {$cluster->instance->address()} . \"./hpost cluster stop\" ends it.");
        }
        (new Packages($this->root))->ensure(false);
        if ($word === 'try') {
            return $this->tryCluster();
        }
        $cluster->clear(isset($options['--fresh']));
        isset($options['--port']) && $cluster->instance->ports->demand('web', (int) $options['--port']);

        return $this->stay(
            $cluster->instance, fn () => $cluster->start(! isset($options['--empty'])), $cluster->keepers(), $cluster->stop(...),
        );
    }

    /** Parts of a cluster of its own are killed, stalled, cut off and wiped while many write; data of the other is not touched. */
    private function tryCluster(): int
    {
        if (! is_file("$this->root/bench/cluster/Trial.php")) {
            throw new Trouble('The trial is not part of a release; it is in the checkout.');
        }
        require_once "$this->root/bench/cluster/Trial.php";
        $cluster = new Cluster($this->root, 'trial', ['HARBOR_PROGRAMS_A_MINUTE' => '100000']);
        $cluster->clear(true);
        $good = false;
        $this->stay($cluster->instance, function () use ($cluster, &$good): void {
            $cluster->start(false);
            $good = (new Trial($this->root, $cluster))->run();
            $this->over = true;
        }, [], $cluster->stop(...));
        Say::line($good ? 'All of it held.' : 'NOT ALL OF IT HELD.');

        return $good ? 0 : 1;
    }

    /** The tables of a database that is not ours are made by its keeper. */
    private function moveOn(Instance $instance, Settings $settings): void
    {
        if ($settings->ownDatabase()) {
            $instance->migrate();

            return;
        }
        foreach (glob("$instance->directory/cache/*.php") ?: [] as $cache) {
            unlink($cache);
        }
        $keeper = [
            'DB_USERNAME' => $settings->get('DB_KEEPER_USERNAME'), 'DB_PASSWORD' => $settings->get('DB_KEEPER_PASSWORD'),
        ];
        $instance->artisan(['schema:fits'], $keeper);
        $instance->artisan(['migrate', '--force'], $keeper);
    }

    /** While nobody is there, only who reads the terminal may become the first person. */
    private function firstCode(Instance $instance): ?string
    {
        $file = "$instance->directory/first.code";
        if ((int) trim($instance->artisan(['people:count'])) > 0) {
            @unlink($file);

            return null;
        }
        $code = is_file($file) ? trim((string) file_get_contents($file)) : implode('-', str_split(bin2hex(random_bytes(6)), 4));
        touch($file);
        chmod($file, 0600);
        file_put_contents($file, $code."\n");
        $instance->handOver();

        return $code;
    }

    /** @return list<string> how a database of one's own is started: every write is on disk before it is said to be done, and is logged */
    private static function database(Settings $settings): array
    {
        return [
            '--innodb-buffer-pool-size='.$settings->get('DB_MEMORY'), '--innodb-flush-log-at-trx-commit=1', '--sync-binlog=1',
            '--log-bin=harbor-bin', '--binlog-format=ROW', '--expire-logs-days=7', '--max-binlog-size=128M',
        ];
    }

    private function settingsFile(): string
    {
        return is_file('/etc/harbor-post.conf') ? '/etc/harbor-post.conf' : "$this->root/var/serve.conf";
    }

    /** @param  list<string>  $arguments */
    private function doctor(array $arguments): int
    {
        $options = $this->options($arguments, ['--settings' => true, '--instance' => true, '--json' => false]);
        $instance = new Instance($this->root, $options['--instance'] ?? 'serve');
        $found = (new Doctor($this->root, $instance, $options['--settings'] ?? $this->settingsFile()))->look();
        if (isset($options['--json'])) {
            Say::line((string) json_encode(array_map(
                static fn (array $f): array => ['state' => $f[0], 'what' => $f[1], 'mend' => $f[2]],
                $found,
            ), JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE));
        } else {
            foreach ($found as [$state, $what, $mend]) {
                Say::line(sprintf('%-6s %s', $state, $what).($mend === '' ? '' : "\n       to mend it: $mend"));
            }
        }

        return in_array('wrong', array_column($found, 0), true) ? 1 : 0;
    }

    /** @param  list<string>  $arguments */
    private function settings(array $arguments): int
    {
        $this->options($arguments, []);
        Say::line(Settings::template());

        return 0;
    }

    /** @param  list<string>  $arguments */
    private function units(array $arguments): int
    {
        $options = $this->options($arguments, ['--settings' => true, '--user' => true, '--to' => true]);
        $settings = Settings::read($options['--settings'] ?? $this->settingsFile());
        $keep = new Keep(new Instance($this->root, 'serve'), $settings);
        foreach ((new Units($this->root, $settings, $keep->directory()))->all($options['--user'] ?? 'harbor-post') as $name => $text) {
            if (isset($options['--to'])) {
                if (@file_put_contents("{$options['--to']}/$name", $text) === false) {
                    throw new Trouble("{$options['--to']}/$name cannot be written.");
                }
                Say::line("{$options['--to']}/$name");
            } else {
                Say::line("# $name\n$text");
            }
        }

        return 0;
    }

    /** @param  list<string>  $arguments */
    private function backup(array $arguments): int
    {
        $options = $this->options($arguments, ['--settings' => true, '--instance' => true, '--log' => false, '--make-key' => true]);
        $instance = new Instance($this->root, $options['--instance'] ?? 'serve');
        $keep = new Keep($instance, Settings::read($options['--settings'] ?? $this->settingsFile()));
        if (isset($options['--make-key'])) {
            $keep->makeKey($options['--make-key']);

            return 0;
        }
        // Two at once would write one file.
        $lock = fopen("$instance->directory/run/backup.lock", 'c');
        if ($lock === false || ! flock($lock, LOCK_EX | LOCK_NB)) {
            throw new Trouble('A backup is being taken already.');
        }
        if (isset($options['--log'])) {
            $came = $keep->log();
            Say::line($came === [] ? 'Nothing was written since.' : implode("\n", $came));

            return 0;
        }
        $made = $keep->backup();
        Say::line(sprintf('%s, %.1f MB of data, read back and whole, %.1f s', $made['file'], $made['bytes'] / 1e6, $made['seconds']));

        return 0;
    }

    /**
     * The application gets another key, and every secret at rest is encrypted with it. Both keys stand in the settings until that is done:
     * killed midway, all is still read, and the next call goes on.
     *
     * @param  list<string>  $arguments
     */
    private function rekey(array $arguments): int
    {
        $options = $this->options($arguments, ['--settings' => true, '--instance' => true]);
        $instance = new Instance($this->root, $options['--instance'] ?? 'serve');
        if ($instance->processes->isAlive('hpost')) {
            throw new Trouble('It runs, and would go on with the old key: end it first. Nothing was changed.');
        }
        // An instance that is named without settings is a demo.
        $demo = isset($options['--instance']) && ! isset($options['--settings']);
        $settings = $demo ? null : Settings::read($options['--settings'] ?? $this->settingsFile());
        $own = $settings?->ownDatabase() ?? true;
        if (($settings?->get('KEY_FILE') ?? '') !== '') {
            throw new Trouble(
                'The key stands in KEY_FILE, which other machines read too. Take these down, and that line away here, then call it again.',
            );
        }
        if ($instance->setting('APP_KEY') === '' || $own && ! is_dir("$instance->directory/mysql/harbor")) {
            throw new Trouble('There is no installation here whose key could be changed.');
        }
        (new Packages($this->root))->ensure(false);
        $settings === null ? $instance->writeSettings(['HARBOR_DEMO' => $instance->setting('HARBOR_DEMO')])
            : $instance->writeSettings($settings->forApplication());
        foreach (glob("$instance->directory/cache/*.php") ?: [] as $cache) {
            unlink($cache);
        }
        if ($instance->setting('APP_PREVIOUS_KEYS') === '') {
            // The old key is written down first: at no moment stands the new one there alone.
            $instance->set('APP_PREVIOUS_KEYS', $instance->setting('APP_KEY'));
            $instance->set('APP_KEY', 'base64:'.base64_encode(random_bytes(32)));
        }
        try {
            // Rights on tables are given with the next start; until then it may read and write all of them.
            $own && $instance->startDatabase($settings === null ? [] : self::database($settings), whole: true);
            Say::line(trim(Say::step('encrypting secrets anew', fn (): string => $instance->artisan(['secrets:again']))));
        } finally {
            $instance->stop();
        }
        $instance->set('APP_PREVIOUS_KEYS', '');
        Say::line('The old key opens nothing here any more. Make a backup: earlier ones hold the old key, sealed, and open with it.');
        Say::line('Everybody signs in once more.');

        return 0;
    }

    /** @param  list<string>  $arguments */
    private function restore(array $arguments): int
    {
        $file = $arguments[0] ?? '';
        if ($file === '' || $file[0] === '-') {
            fwrite(STDERR, "./hpost restore FILE --key FILE [--until \"2026-11-29 18:00:00\"]\n");
            exit(2);
        }
        $options = $this->options(
            array_slice($arguments, 1),
            ['--settings' => true, '--instance' => true, '--key' => true, '--until' => true],
        );
        if (! isset($options['--key']) || preg_match('/\A(\d{4}-\d\d-\d\d \d\d:\d\d(:\d\d)?)?\z/', $options['--until'] ?? '') !== 1) {
            fwrite(STDERR, "--key takes the recovery key's file, --until a time in UTC such as \"2026-11-29 18:00:00\".\n");
            exit(2);
        }
        $instance = new Instance($this->root, $options['--instance'] ?? 'serve');
        $settings = Settings::read($options['--settings'] ?? $this->settingsFile());
        if ($instance->processes->isAlive('hpost')) {
            throw new Trouble('It runs: end it first. Nothing was changed.');
        }
        if ($settings->ownDatabase() && is_dir("$instance->directory/mysql/harbor")) {
            throw new Trouble("There is data already in $instance->directory/mysql. Move it away first; nothing was changed.");
        }
        (new Packages($this->root))->ensure(false);
        $instance->clear(false);
        $instance->writeSettings($settings->forApplication());
        foreach (glob("$instance->directory/cache/*.php") ?: [] as $cache) {
            unlink($cache);
        }
        try {
            $settings->ownDatabase() && $instance->startDatabase(self::database($settings));
            $keep = new Keep($instance, $settings);
            $done = Say::step('bringing the data back', fn (): array => $keep->restore($file, $options['--key'], $options['--until']
                ?? null));
            array_map(Say::line(...), array_map(static fn (string $l): string => "  $l", $done));
            $this->moveOn($instance, $settings);
            Say::step('asking whether everything fits together', fn (): string => $instance->artisan(['data:check']));
            Say::step('following the chain of history', fn (): string => $instance->artisan(['history:verify']));
        } catch (\Throwable $e) {
            // Half of it is worth nothing, and must not be taken for the whole.
            $instance->stop();
            if ($settings->ownDatabase()) {
                exec('rm -rf '.escapeshellarg("$instance->directory/mysql"));
            }
            throw $e;
        }
        $instance->stop();
        Say::line('Everything is back. "./hpost serve" starts it.');

        return 0;
    }

    private function check(): void
    {
        if ($this->over) {
            throw new Trouble('Stopped before everything was up.');
        }
    }

    /** @param  list<string>  $arguments */
    private function stop(array $arguments): int
    {
        $options = $this->options($arguments, ['--instance' => true, '--settings' => true]);
        $instance = new Instance($this->root, $options['--instance'] ?? 'demo');
        if (! $instance->processes->anyAlive()) {
            Say::line('Nothing of this checkout runs.');

            return 0;
        }
        $instance->processes->end('hpost', 45);
        $instance->stop();
        Say::line('Ended.');

        return 0;
    }

    /** @param  list<string>  $arguments */
    private function status(array $arguments): int
    {
        $options = $this->options($arguments, ['--instance' => true]);
        $instance = new Instance($this->root, $options['--instance'] ?? 'demo');
        $alive = 0;
        foreach ($instance->processes->all() as $name => $one) {
            $runs = $instance->processes->isAlive($name);
            $alive += (int) $runs;
            $port = $name === 'php-fpm' ? null : $instance->ports->known($name === 'nginx' ? 'web' : $name);
            Say::line(
                sprintf(
                    '%-10s %-8s %-22s %s',
                    $name,
                    $runs ? 'runs' : 'ended',
                    $port === null ? ($name === 'php-fpm' ? 'sockets of its own' : '') : "127.0.0.1:$port",
                    $runs ? 'since '.date('j M H:i:s', $one['since'])." (process {$one['pid']})" : '',
                ),
            );
        }
        Say::line($alive === 0 ? 'Nothing of this checkout runs.' : "Harbor Post: {$instance->address()}");

        return $alive === 0 ? 1 : 0;
    }

    /**
     * Any console command, in the environment of the demo. Symfony's status for a word it does not know is 1, and for us 2.
     *
     * @param  list<string>  $arguments
     */
    private function console(string $word, array $arguments, bool $bench = false): int
    {
        if (! is_file("$this->root/vendor/autoload.php")) {
            ob_start();
            (new Packages($this->root))->php();
            ob_end_clean();
        }
        $instance = new Instance($this->root, (string) (getenv('HPOST_INSTANCE') ?: ($bench ? 'bench' : 'demo')));
        if (! is_file("$this->root/var/$instance->name.env")) {
            file_put_contents("$this->root/var/$instance->name.env", 'APP_KEY="base64:'.base64_encode(random_bytes(32))."\"\n");
            chmod("$this->root/var/$instance->name.env", 0600);
        }
        if ($bench) {
            return $this->bench($instance, $arguments);
        }
        foreach ($instance->env() as $key => $value) {
            putenv("$key=$value");
        }
        $compute = preg_match('/^(calc|zone|option):/', $word) === 1
            ? ['-d', 'opcache.enable_cli=1', '-d', 'opcache.jit=tracing', '-d', 'opcache.jit_buffer_size=64M']
            : [];
        $prefix = is_dir("$instance->directory/mysql") ? $instance->account->prefix() : [];
        if ($prefix !== []) {
            $instance->handOver();
        }
        [$arguments, $lent] = $prefix === [] ? [$arguments, null] : $instance->account->lend($arguments, $instance->directory);
        $process = proc_open(
            [...$prefix, PHP_BINARY, '-d', 'memory_limit=4G', ...$compute, "$this->root/launcher/console.php", $word, ...$arguments],
            [],
            $pipes,
        );
        $status = $process === false ? 1 : proc_close($process);
        $lent === null ?: exec('rm -rf '.escapeshellarg($lent));

        return $status;
    }

    /** @param  list<string>  $arguments */
    private function bench(Instance $instance, array $arguments): int
    {
        (new Packages($this->root))->ensure(false);
        $instance->clear(false);
        $instance->writeSettings(['HARBOR_DEMO' => 'true', 'BCRYPT_ROUNDS' => '4']);
        try {
            $instance->startDatabase(['--innodb-buffer-pool-size=2G'], whole: true);
            $instance->artisan(['migrate', '--force']);
            $instance->artisan(['config:cache']);
            $instance->artisan(['route:cache']);
            $instance->startWeb();
            $instance->awaitPage();
            $process = proc_open(
                [PHP_BINARY, '-d', 'memory_limit=4G', "$this->root/launcher/console.php", 'bench', ...$arguments],
                [],
                $pipes,
                $this->root,
                $instance->env() + getenv(),
            );

            return $process === false ? 1 : proc_close($process);
        } finally {
            $instance->stop();
        }
    }

    /**
     * @param  list<string>  $arguments
     * @param  array<string, bool>  $known  option → does it take a value
     * @return array<string, string>
     */
    private function options(array $arguments, array $known): array
    {
        $options = [];
        while (($argument = array_shift($arguments)) !== null) {
            [$name, $value] = [...explode('=', $argument, 2), null];
            if (! isset($known[$name])) {
                fwrite(STDERR, "\"$argument\" is not known here; \"./hpost help\" lists what is.\n");
                exit(2);
            }
            $options[$name] = $known[$name] ? (string) ($value ?? array_shift($arguments)) : '1';
            if ($name === '--port' && preg_match('/\A\d+\z/', $options[$name]) !== 1) {
                fwrite(STDERR, "--port takes a number.\n");
                exit(2);
            }
        }

        return $options;
    }
}
