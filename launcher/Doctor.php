<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/** Looks at an installation and says what is wrong with it and how to mend it, each as a line. */
final class Doctor
{
    /** @var list<array{string, string, string}> state, what was looked at, what to do */
    private array $found = [];

    public function __construct(private readonly string $root, private readonly Instance $instance, private readonly string $file)
    {
    }

    /** @return list<array{string, string, string}> ok, warns or wrong; what; how it is mended */
    public function look(): array
    {
        try {
            $settings = Settings::read($this->file);
            $this->say(true, is_file($this->file) ? "the settings in $this->file are understood"
                : "no settings in $this->file: as they stand");
        } catch (Trouble $e) {
            $this->say(false, $e->getMessage(), 'correct the file; "./hpost settings" shows what there is');

            return $this->found;
        }
        $this->machine();
        $this->disk();
        $this->keys();
        $this->keeping($settings);
        $this->certificate($settings);
        $this->running($settings);

        return $this->found;
    }

    private function say(bool $holds, string $what, string $mend = '', bool $must = true): void
    {
        $this->found[] = [$holds ? 'ok' : ($must ? 'wrong' : 'warns'), $what, $holds ? '' : $mend];
    }

    private function machine(): void
    {
        foreach (['mariadbd', 'mariadb-dump', 'nginx', 'php-fpm8.2'] as $program) {
            $this->say(Packages::program($program) !== null, "$program is installed", '"./hpost serve" as root installs it, once');
        }
        $this->say(is_file("$this->root/vendor/autoload.php"), 'the PHP packages are there', 'unpack the release anew');
        $this->say(is_file("$this->root/public/build/manifest.json"), 'styles and scripts are built', 'unpack the release anew');
        $this->say(
            posix_geteuid() !== 0 || $this->instance->account->uid !== null,
            'it does not run as root',
            'run it by its unit ("./hpost units"), or install setpriv (util-linux)',
            false,
        );
        $year = (int) date('Y');
        $this->say($year >= 2026 && $year < 2100, 'the clock shows '.date('j M Y H:i'), 'set the clock; signatures and leases go by it');
    }

    private function disk(): void
    {
        $free = disk_free_space($this->root) ?: 0.0;
        $this->say(
            $free > 2e9,
            sprintf('%.1f GB are free below %s', $free / 1e9, $this->root),
            'make room: a full disk stops every write',
            $free < 2e8,
        );
        $file = "$this->root/var/{$this->instance->name}.env";
        $this->say(
            ! is_file($file) || (fileperms($file) & 0o077) === 0,
            'nobody else may read the secrets',
            "chmod 600 $file",
        );
    }

    private function keys(): void
    {
        $this->say(
            $this->instance->setting('APP_PREVIOUS_KEYS') === '',
            'every secret is encrypted with the key of now',
            'a key of before is still read with: end it, then "./hpost rekey" goes on where it stopped',
            false,
        );
    }

    private function keeping(Settings $settings): void
    {
        $key = is_file("{$this->instance->directory}/recovery.pub");
        $this->say($key, 'there is a recovery key', './hpost backup --make-key FILE, then take FILE off this machine', false);
        $last = json_decode((string) @file_get_contents("{$this->instance->directory}/backup.json"), true);
        $at = is_array($last) && is_int($last['at'] ?? null) ? $last['at'] : null;
        $this->say(
            $at !== null && time() - $at < 2 * 86400,
            $at === null ? 'there is a backup' : 'the last backup is of '.date('j M H:i', $at),
            './hpost backup, and its timer by "./hpost units"',
            false,
        );
        $this->say(
            $settings->get('BACKUP_DIRECTORY') !== '',
            'backups stand apart from the data',
            'set BACKUP_DIRECTORY to another disk or a mounted share',
            false,
        );
    }

    private function certificate(Settings $settings): void
    {
        if ($settings->get('TLS_CERTIFICATE') === '') {
            $this->say(
                in_array($settings->get('ADDRESS'), ['127.0.0.1', '::1'], true),
                'without TLS it is reached from this machine only',
                'set TLS_CERTIFICATE and TLS_KEY, or ADDRESS to loopback behind a proxy that speaks TLS',
            );

            return;
        }
        $certificate = (string) file_get_contents($settings->get('TLS_CERTIFICATE'));
        $read = openssl_x509_parse($certificate) ?: [];
        $until = $read['validTo_time_t'] ?? 0;
        $this->say(
            $until > time() + 14 * 86400,
            $until === 0 ? 'the certificate can be read' : 'the certificate holds until '.date('j M Y', (int) $until),
            'renew it; "./hpost serve" reads it when it starts',
            $until < time(),
        );
        $this->say(
            openssl_x509_check_private_key($certificate, (string) file_get_contents($settings->get('TLS_KEY'))),
            'the key belongs to the certificate',
            'TLS_KEY is the key of another certificate',
        );
    }

    private function running(Settings $settings): void
    {
        $runs = $this->instance->processes->isAlive('hpost');
        $this->say($runs, 'it runs', 'systemctl start harbor-post, or ./hpost serve', false);
        if (! $runs) {
            $this->say(Ports::isFree((int) $settings->get('PORT')), "port {$settings->get('PORT')} is free", 'set another PORT');

            return;
        }
        $context = stream_context_create([
            'ssl' => ['verify_peer' => false, 'verify_peer_name' => false], 'http' => ['timeout' => 5, 'ignore_errors' => true],
        ]);
        $answer = json_decode((string) @file_get_contents("{$this->instance->address()}/ready", false, $context), true);
        $this->say(is_array($answer), 'the application answers', "see {$this->instance->directory}/log");
        foreach (is_array($answer) && is_array($answer['checks'] ?? null) ? $answer['checks'] : [] as $name => $check) {
            $this->say(
                ($check['ok'] ?? false) === true,
                "$name: ".(is_string($check['says'] ?? null) ? $check['says'] : ''),
                'see docs/install.md',
                ($check['must'] ?? true) === true,
            );
        }
    }
}
