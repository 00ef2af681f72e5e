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
        $wrong = [];
        $say = static function (bool $holds, string $sentence) use (&$wrong): void {
            $holds || $wrong[] = $sentence;
        };
        $port = static fn (string $p): bool => preg_match('/\A\d{1,5}\z/', $p) === 1 && (int) $p > 0 && (int) $p < 65536;
        $say(
            filter_var($this->get('ADDRESS'), FILTER_VALIDATE_IP) !== false,
            "ADDRESS: \"{$this->get('ADDRESS')}\" is no IP address",
        );
        $say($port($this->get('PORT')), "PORT: \"{$this->get('PORT')}\" is no port from 1 to 65535");
        $say($port($this->get('DB_PORT')), "DB_PORT: \"{$this->get('DB_PORT')}\" is no port from 1 to 65535");
        foreach ($this->words('HOSTS') as $host) {
            $say(
                preg_match('/\A[A-Za-z0-9.:-]+\z/', $host) === 1,
                "HOSTS: \"$host\" is no name of a host",
            );
        }
        foreach ($this->words('PROXIES') as $proxy) {
            $address = explode('/', $proxy)[0];
            $say(filter_var($address, FILTER_VALIDATE_IP) !== false, "PROXIES: \"$proxy\" is no address and no prefix");
        }
        $issuer = $this->get('OIDC_ISSUER');
        $say(
            $issuer === '' || preg_match('~\Ahttps://[A-Za-z0-9.-]+(:\d+)?(/\S*)?\z~', $issuer) === 1,
            "OIDC_ISSUER: \"$issuer\" is no address such as https://login.example",
        );
        $say(
            in_array($this->get('OIDC_MAKES'), ['', 'reader', 'guest'], true),
            "OIDC_MAKES: \"{$this->get('OIDC_MAKES')}\" is neither reader nor guest",
        );
        $names = $this->get('NAMES');
        $say(
            $names === '' || preg_match('/\A(?:\d{1,3}(?:\.\d{1,3}){3}|\[[0-9a-f:.]+\]):(\d{1,5})\z/i', $names, $m) === 1 && $port($m[1]),
            "NAMES: \"$names\" is no address:port such as 0.0.0.0:53",
        );
        $say(
            ($this->get('TLS_CERTIFICATE') === '') === ($this->get('TLS_KEY') === ''),
            'TLS_CERTIFICATE and TLS_KEY go together: one is set and the other is not',
        );
        foreach (['TLS_CERTIFICATE', 'TLS_KEY', 'DB_TLS_CA'] as $name) {
            $say(
                $this->get($name) === '' || is_readable($this->get($name)),
                "$name: {$this->get($name)} cannot be read by whoever starts this",
            );
        }
        $say(
            $this->ownDatabase() || $this->get('DB_PASSWORD') !== '' && $this->get('DB_KEEPER_PASSWORD') !== '',
            'DB_HOST is set, so DB_PASSWORD and DB_KEEPER_PASSWORD are needed too',
        );
        $say(in_array($this->get('LOG'), ['text', 'json'], true), "LOG: \"{$this->get('LOG')}\" is neither text nor json");
        $say(
            preg_match('/\A[1-9]\d{0,3}\z/', $this->get('BACKUP_KEEP')) === 1,
            "BACKUP_KEEP: \"{$this->get('BACKUP_KEEP')}\" is no number from 1 on",
        );
        $say(preg_match('/\A\d+[MG]\z/', $this->get('DB_MEMORY')) === 1,
            "DB_MEMORY: \"{$this->get('DB_MEMORY')}\" is no size such as 768M");

        return $wrong;
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
            'HARBOR_BACKUPS' => $this->get('BACKUP_DIRECTORY'), 'HARBOR_NAMES' => $this->get('NAMES'),
        ];
        foreach (['ISSUER', 'CLIENT', 'SECRET', 'NAME', 'CLAIM', 'GROUPS', 'SCOPES', 'MAKES'] as $key) {
            $told["HARBOR_OIDC_$key"] = $this->get("OIDC_$key");
        }

        return $this->ownDatabase() ? $told : $told + [
            'DB_HOST' => $this->get('DB_HOST'), 'DB_PORT' => $this->get('DB_PORT'), 'DB_DATABASE' => $this->get('DB_NAME'),
            'DB_USERNAME' => $this->get('DB_USERNAME'), 'DB_PASSWORD' => $this->get('DB_PASSWORD'),
            'DB_TLS_CA' => $this->get('DB_TLS_CA'),
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
