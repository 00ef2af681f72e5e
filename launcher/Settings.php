<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/** What an installation in service is set to, from one file: each setting declared once, with its reason, its default and its check. */
final readonly class Settings
{
    /** name → default, why it is there */
    public const KNOWN = [
        'ADDRESS' => ['127.0.0.1', 'the address that the web server listens on: loopback behind a proxy, 0.0.0.0 or :: for all'],
        'PORT' => ['8080', 'the port that the web server listens on; below 1024 only root may'],
        'HOSTS' => ['127.0.0.1 localhost', 'names under which people reach it, apart by blanks; any other name is not answered'],
        'URL' => ['', 'the address that stands in mails and reports, when a proxy makes it another than the one listened on'],
        'PROXIES' => ['', 'addresses of proxies in front, apart by blanks: what they say of the caller is believed, of nobody else'],
        'NAMES' => ['', 'where zones are handed out to the name servers that copy them, as 0.0.0.0:53; without one, nowhere'],
        'TLS_CERTIFICATE' => ['', 'a file with the certificate and its chain, in PEM; without one it speaks HTTP, for a proxy here'],
        'TLS_KEY' => ['', 'the file with its private key, readable by the account that runs it alone'],
        'DB_HOST' => ['', 'a MariaDB that is there already; without one, a database of its own is started below var/'],
        'DB_PORT' => ['3306', 'its port'],
        'DB_NAME' => ['harbor', 'its schema, made beforehand'],
        'DB_USERNAME' => ['harbor', 'the account that reads and writes rows'],
        'DB_PASSWORD' => ['', 'its password'],
        'DB_KEEPER_USERNAME' => ['keeper', 'the account that makes tables, and takes backups'],
        'DB_KEEPER_PASSWORD' => ['', 'its password'],
        'DB_TLS_CA' => ['', 'a file with the certificate that signs the database\'s: the connection is then encrypted and verified'],
        'DB_READ_HOST' => ['', 'where only reading goes, when several nodes hold the same rows; without one, DB_HOST'],
        'DB_READ_PORT' => ['', 'its port; without one, everything goes to DB_HOST'],
        'DB_TAKE_OVER' => ['0', 'seconds for which work waits while another node takes over; 0 where there is no other'],
        'DB_NODES' => ['0', 'how many nodes hold the rows, so that fewer are told; 0 where it is one'],
        'MACHINE' => ['', 'what this machine is called among several; without one, as the system calls it'],
        'KEY_FILE' => ['', 'a file with the application\'s key, the same on all machines; without one, a key of its own is made'],
        'DB_MEMORY' => ['768M', 'what a database of its own keeps of its pages in memory; half of the machine\'s is usual'],
        'LOG' => ['text', 'how the application\'s log is written: text, or json, one object a line'],
        'BACKUP_DIRECTORY' => ['', 'where backups go; without one, below var/, which a lost disk takes with it'],
        'BACKUP_KEEP' => ['14', 'how many backups stay; older ones go when a new one was read back'],
        'MAIL' => ['', 'the server that takes mail, as smtp://host:25; without one everything is told in the application alone'],
        'MAIL_FROM' => ['harbor-post@localhost', 'the sender of mails'],
        'MAIL_DOMAINS' => ['', 'domains that mail goes to, apart by blanks; without one, every one'],
        'MAIL_ZONE' => ['UTC', 'the time zone by whose clock the daily mail goes at seven'],
        'OIDC_ISSUER' => ['', 'the identity provider of the organisation (OpenID Connect), as https://login.example'],
        'OIDC_CLIENT' => ['harbor-post', 'as whom it knows this installation; its redirect address is URL/sign-in/back'],
        'OIDC_SECRET' => ['', 'the secret of that client; without one, a public client with PKCE'],
        'OIDC_NAME' => ['the identity provider', 'what people call it, on the page where they sign in'],
        'OIDC_CLAIM' => ['preferred_username', 'the claim that holds the name that a steward writes on the page of a person'],
        'OIDC_GROUPS' => ['groups', 'the claim that lists groups, which teams may follow'],
        'OIDC_SCOPES' => ['', 'scopes to ask for beside openid profile email, apart by blanks'],
        'OIDC_MAKES' => ['', 'the role of people who come from there and are not written down yet: reader; without one, nobody comes so'],
        'SECOND_FACTOR' => ['', 'roles that sign in with a second factor, apart by blanks: steward planner …'],
    ];

    /** @param  array<string, string>  $values */
    private function __construct(public string $file, private array $values)
    {
    }

    /** @throws Trouble that names each line that is not understood */
    public static function read(string $file): self
    {
        $values = $wrong = [];
        foreach (is_file($file) ? file($file, FILE_IGNORE_NEW_LINES) ?: [] : [] as $i => $line) {
            $line = trim($line);
            if ($line === '' || $line[0] === '#') {
                continue;
            }
            if (preg_match('/\A([A-Z_]+)\s*=\s*(.*)\z/', $line, $m) !== 1) {
                $wrong[] = 'line '.($i + 1).": \"$line\" is no NAME=value";

                continue;
            }
            if (! isset(self::KNOWN[$m[1]])) {
                $near = self::near($m[1]);
                $wrong[] = 'line '.($i + 1).": there is no setting $m[1]".($near === null ? '' : "; $near was meant?");

                continue;
            }
            $values[$m[1]] = trim($m[2], "\"' ");
        }
        $settings = new self($file, $values);
        $wrong = [...$wrong, ...$settings->wrong()];
        if ($wrong !== []) {
            throw new Trouble("$file cannot be used:\n  ".implode("\n  ", $wrong));
        }

        return $settings;
    }

    public function get(string $name): string
    {
        return $this->values[$name] ?? self::KNOWN[$name][0];
    }

    public function ownDatabase(): bool
    {
        return $this->get('DB_HOST') === '';
    }

    /** @return list<string> what is said in the file and cannot be so, each as a sentence */
    private function wrong(): array
    {
        $rules = [...$this->ofTheWeb(), ...$this->ofTheDatabase(), ...$this->ofWhatItReads(), ...$this->ofItself()];

        return array_column(array_filter($rules, static fn (array $rule): bool => ! $rule[0]), 1);
    }

    /** @return list<array{bool, string}> whether it holds, and what is said where it does not */
    private function ofTheWeb(): array
    {
        $names = $this->get('NAMES');
        $address = '/\A(?:\d{1,3}(?:\.\d{1,3}){3}|\[[0-9a-f:.]+\]):(\d{1,5})\z/i';
        $issuer = $this->get('OIDC_ISSUER');
        $rules = [
            [filter_var($this->get('ADDRESS'), FILTER_VALIDATE_IP) !== false, "ADDRESS: \"{$this->get('ADDRESS')}\" is no IP address"],
            [self::isPort($this->get('PORT')), "PORT: \"{$this->get('PORT')}\" is no port from 1 to 65535"],
            [
                $issuer === '' || preg_match('~\Ahttps://[A-Za-z0-9.-]+(:\d+)?(/\S*)?\z~', $issuer) === 1,
                "OIDC_ISSUER: \"$issuer\" is no address such as https://login.example",
            ],
            [
                in_array($this->get('OIDC_MAKES'), ['', 'reader', 'guest'], true),
                "OIDC_MAKES: \"{$this->get('OIDC_MAKES')}\" is neither reader nor guest",
            ],
            [
                $names === '' || preg_match($address, $names, $m) === 1 && self::isPort($m[1]),
                "NAMES: \"$names\" is no address:port such as 0.0.0.0:53",
            ],
        ];
        foreach ($this->words('HOSTS') as $host) {
            $rules[] = [preg_match('/\A[A-Za-z0-9.:-]+\z/', $host) === 1, "HOSTS: \"$host\" is no name of a host"];
        }
        foreach ($this->words('PROXIES') as $proxy) {
            $known = filter_var(explode('/', $proxy)[0], FILTER_VALIDATE_IP) !== false;
            $rules[] = [$known, "PROXIES: \"$proxy\" is no address and no prefix"];
        }

        return $rules;
    }

    /** @return list<array{bool, string}> */
    private function ofTheDatabase(): array
    {
        $readers = $this->get('DB_READ_PORT');

        return [
            [self::isPort($this->get('DB_PORT')), "DB_PORT: \"{$this->get('DB_PORT')}\" is no port from 1 to 65535"],
            [
                $this->ownDatabase() || $this->get('DB_PASSWORD') !== '' && $this->get('DB_KEEPER_PASSWORD') !== '',
                'DB_HOST is set, so DB_PASSWORD and DB_KEEPER_PASSWORD are needed too',
            ],
            [
                $readers === '' || self::isPort($readers) && ! $this->ownDatabase(),
                'DB_READ_PORT is a port from 1 to 65535, and goes with DB_HOST',
            ],
            [
                preg_match('/\A\d{1,2}\z/', $this->get('DB_TAKE_OVER')) === 1,
                "DB_TAKE_OVER: \"{$this->get('DB_TAKE_OVER')}\" is no number of seconds from 0 to 99",
            ],
            [preg_match('/\A\d\z/', $this->get('DB_NODES')) === 1, "DB_NODES: \"{$this->get('DB_NODES')}\" is no number from 0 to 9"],
            [
                preg_match('/\A\d+[MG]\z/', $this->get('DB_MEMORY')) === 1,
                "DB_MEMORY: \"{$this->get('DB_MEMORY')}\" is no size such as 768M",
            ],
        ];
    }

    /** @return list<array{bool, string}> */
    private function ofWhatItReads(): array
    {
        $rules = [
            [
                ($this->get('TLS_CERTIFICATE') === '') === ($this->get('TLS_KEY') === ''),
                'TLS_CERTIFICATE and TLS_KEY go together: one is set and the other is not',
            ],
            [
                $this->get('KEY_FILE') === '' || ! is_readable($this->get('KEY_FILE')) || $this->key() !== '',
                "KEY_FILE: {$this->get('KEY_FILE')} holds no key such as APP_KEY in var/serve.env: base64: and 32 bytes",
            ],
        ];
        foreach (['TLS_CERTIFICATE', 'TLS_KEY', 'DB_TLS_CA', 'KEY_FILE'] as $name) {
            $file = $this->get($name);
            $rules[] = [$file === '' || is_readable($file), "$name: $file cannot be read by whoever starts this"];
        }

        return $rules;
    }

    /** @return list<array{bool, string}> */
    private function ofItself(): array
    {
        return [
            [in_array($this->get('LOG'), ['text', 'json'], true), "LOG: \"{$this->get('LOG')}\" is neither text nor json"],
            [
                preg_match('/\A[1-9]\d{0,3}\z/', $this->get('BACKUP_KEEP')) === 1,
                "BACKUP_KEEP: \"{$this->get('BACKUP_KEEP')}\" is no number from 1 on",
            ],
            [
                preg_match('/\A[A-Za-z0-9._-]{0,60}\z/', $this->get('MACHINE')) === 1,
                "MACHINE: \"{$this->get('MACHINE')}\" is no name of letters, digits, dots and hyphens",
            ],
        ];
    }

    private static function isPort(string $port): bool
    {
        return preg_match('/\A\d{1,5}\z/', $port) === 1 && (int) $port > 0 && (int) $port < 65536;
    }

    /** The key that all machines have; blank where the file holds none. */
    private function key(): string
    {
        preg_match('~base64:([A-Za-z0-9+/]{43}=)~', (string) @file_get_contents($this->get('KEY_FILE')), $m);

        return isset($m[1]) && strlen((string) base64_decode($m[1], true)) === 32 ? "base64:$m[1]" : '';
    }

    /** @return list<string> */
    private function words(string $name): array
    {
        return preg_split('/\s+/', $this->get($name), -1, PREG_SPLIT_NO_EMPTY) ?: [];
    }

    private static function near(string $name): ?string
    {
        $best = null;
        foreach (array_keys(self::KNOWN) as $known) {
            if (levenshtein($name, $known) < ($best === null ? 4 : levenshtein($name, $best))) {
                $best = $known;
            }
        }

        return $best;
    }

    /** @return array<string, string> what the application is told, beside what every instance is told */
    public function forApplication(): array
    {
        $tls = $this->get('TLS_CERTIFICATE') !== '';
        $host = $this->words('HOSTS')[0] ?? '127.0.0.1';
        $told = [
            'APP_ENV' => 'production', 'HARBOR_DEMO' => 'false', 'HARBOR_TLS' => $tls ? 'true' : 'false', 'HARBOR_STANDINS' => '',
            'HARBOR_HOSTS' => $this->get('HOSTS'), 'HARBOR_PROXIES' => $this->get('PROXIES'),
            'HARBOR_SECOND_FACTOR' => $this->get('SECOND_FACTOR'), 'HARBOR_MAIL' => $this->get('MAIL'),
            'HARBOR_MAIL_FROM' => $this->get('MAIL_FROM'), 'HARBOR_MAIL_DOMAINS' => $this->get('MAIL_DOMAINS'),
            'HARBOR_MAIL_ZONE' => $this->get('MAIL_ZONE'),
            'APP_URL' => $this->get('URL') !== '' ? $this->get('URL') : ($tls ? 'https' : 'http')."://$host:{$this->get('PORT')}",
            'LOG_CHANNEL' => $this->get('LOG') === 'json' ? 'json' : 'daily',
            'HARBOR_MACHINE' => $this->get('MACHINE'), 'HARBOR_TAKE_OVER' => $this->get('DB_TAKE_OVER'),
            'HARBOR_NODES' => $this->get('DB_NODES'),
            'HARBOR_NAMES' => $this->get('NAMES'),
        ];
        foreach (['ISSUER', 'CLIENT', 'SECRET', 'NAME', 'CLAIM', 'GROUPS', 'SCOPES', 'MAKES'] as $key) {
            $told["HARBOR_OIDC_$key"] = $this->get("OIDC_$key");
        }

        if ($this->get('KEY_FILE') !== '') {
            $told['APP_KEY'] = $this->key();
        }

        return $this->ownDatabase() ? $told : $told + [
            'DB_HOST' => $this->get('DB_HOST'), 'DB_PORT' => $this->get('DB_PORT'), 'DB_DATABASE' => $this->get('DB_NAME'),
            'DB_USERNAME' => $this->get('DB_USERNAME'), 'DB_PASSWORD' => $this->get('DB_PASSWORD'),
            'DB_TLS_CA' => $this->get('DB_TLS_CA'), 'DB_READ_HOST' => $this->get('DB_READ_HOST'),
            'DB_READ_PORT' => $this->get('DB_READ_PORT'),
        ];
    }

    /** The file as it is written the first time: every setting with its reason, none set. */
    public static function template(): string
    {
        $text = "# Settings of Harbor Post. Lines that begin with # are not read; what is not set has the value that stands there.\n";
        foreach (self::KNOWN as $name => [$default, $why]) {
            $text .= "\n# ".wordwrap(ucfirst($why).'.', 110, "\n# ")."\n# $name=$default\n";
        }

        return $text;
    }
}
