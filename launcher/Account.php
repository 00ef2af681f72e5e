<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/**
 * As whom the programs of an instance run: as whoever calls the script, or, when that is root, as an account of their own that may do
 * nothing else, wherever it can reach the checkout.
 */
final readonly class Account
{
    private const NAME = 'hpost-run';

    private const READ = [
        'app', 'artisan', 'bootstrap', 'config', 'core', 'database', 'launcher', 'public', 'resources', 'routes', 'standins',
    ];

    private function __construct(public ?int $uid, public ?int $gid, public string $why = '')
    {
    }

    public static function of(string $root): self
    {
        if (posix_geteuid() !== 0) {
            return new self(null, null);
        }
        if (Packages::program('setpriv') === null) {
            return new self(null, null, 'setpriv is not installed');
        }
        $user = posix_getpwnam(self::NAME);
        if ($user === false && Packages::program('useradd') !== null) {
            exec('useradd --system --no-create-home --home-dir /nonexistent --shell /usr/sbin/nologin '.self::NAME.' 2>/dev/null');
            $user = posix_getpwnam(self::NAME);
        }
        if ($user === false) {
            return new self(null, null, 'the account '.self::NAME.' could not be made');
        }
        $account = new self($user['uid'], $user['gid']);
        // Everything that it will read: a folder it cannot enter, or a file it cannot open, is found here and not while it runs.
        $find = [
            ...$account->prefix(), 'find', ...array_map(static fn (string $f): string => "$root/$f", self::READ), '!', '-readable',
            '-print', '-quit',
        ];
        exec(implode(' ', array_map(escapeshellarg(...), $find)).' 2>&1', $output, $status);

        return $status === 0 && $output === [] ? $account : new self(null, null, 'the account '.self::NAME." cannot reach $root");
    }

    /** @return list<string> in front of a command */
    public function prefix(): array
    {
        return $this->uid === null
            ? []
            : [(string) Packages::program('setpriv'), "--reuid=$this->uid", "--regid=$this->gid", '--clear-groups', '--no-new-privs'];
    }

    /** Gives files and folders to the account, with all that is in them. */
    public function own(string ...$paths): void
    {
        foreach ($this->uid === null ? [] : $paths as $path) {
            if (file_exists($path)) {
                exec('chown -R '.escapeshellarg("$this->uid:$this->gid").' '.escapeshellarg($path));
            }
        }
    }

    /**
     * Files among arguments that only the caller may read are lent to the account as copies of the same name.
     *
     * @param  list<string>  $arguments
     * @return array{list<string>, ?string} the arguments to pass, and the folder to remove afterwards
     */
    public function lend(array $arguments, string $folder): array
    {
        $lent = null;
        foreach ($this->uid === null ? [] : $arguments as $i => $argument) {
            if (! is_file($argument)) {
                continue;
            }
            exec(implode(' ', array_map(escapeshellarg(...), [...$this->prefix(), 'test', '-r', $argument])), $output, $status);
            if ($status === 0) {
                continue;
            }
            $lent ??= $folder.'/lent-'.bin2hex(random_bytes(6));
            @mkdir("$lent/$i", 0700, true);
            copy($argument, "$lent/$i/".basename($argument));
            $arguments[$i] = "$lent/$i/".basename($argument);
        }
        $lent === null ?: $this->own($lent);

        return [array_values($arguments), $lent];
    }
}
