<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/** The units of systemd for an installation in service. */
final readonly class Units
{
    public function __construct(private string $root, private Settings $settings, private string $backups)
    {
    }

    /** @return array<string, string> file name → text */
    public function all(string $user): array
    {
        $writes = implode(' ', array_unique(["$this->root/var", $this->backups]));
        $values = [
            '{root}' => $this->root, '{php}' => '/usr/bin/php8.2', '{user}' => $user, '{writes}' => $writes,
            '{capabilities}' => (int) $this->settings->get('PORT') < 1024 || $this->lowNames() ? 'CAP_NET_BIND_SERVICE' : '',
        ];
        $units = ['harbor-post.service' => $this->of('harbor-post.service', $values)];
        $kinds = [
            'backup' => ['everything', '', '*-*-* 02:10:00'],
            'backup-log' => ['what was written since', ' --log', '*:0/5'],
        ];
        foreach ($kinds as $name => [$what, $option, $when]) {
            $more = $values + ['{what}' => $what, '{option}' => $option, '{when}' => $when];
            $units["harbor-post-$name.service"] = $this->of('harbor-post-backup.service', $more);
            $units["harbor-post-$name.timer"] = $this->of('harbor-post-backup.timer', $more);
        }

        return $units;
    }

    private function lowNames(): bool
    {
        $names = $this->settings->get('NAMES');

        return $names !== '' && (int) substr($names, (int) strrpos($names, ':') + 1) < 1024;
    }

    /** @param  array<string, string>  $values */
    private function of(string $template, array $values): string
    {
        return strtr((string) file_get_contents("$this->root/launcher/templates/$template"), $values);
    }
}
