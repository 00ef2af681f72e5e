<?php

declare(strict_types=1);

namespace App\Links;

use Symfony\Component\Mailer\Exception\TransportExceptionInterface;
use Symfony\Component\Mailer\Transport;
use Symfony\Component\Mime\Address;
use Symfony\Component\Mime\Email;

/** Hands mails to the server that takes them (RFC 5321). */
final class MailClient
{
    /** Is there a server that takes mail? */
    public static function isSet(): bool
    {
        return (string) config('harbor.mail.server') !== '';
    }

    /** @return ?string why it was not taken; null when it was */
    public static function send(string $to, string $subject, string $text, ?string $file, ?string $content): ?string
    {
        try {
            $mail = (new Email)->from(new Address((string) config('harbor.mail.from'), 'Harbor Post'))->to($to)->subject($subject)
                ->text($text);
            $mail->getHeaders()->addTextHeader('Auto-Submitted', 'auto-generated'); // RFC 3834: nothing answers it
            $file === null || $content === null ?: $mail->attach($content, $file, 'text/csv');
            $transport = Transport::fromDsn((string) config('harbor.mail.server'));
            if ($transport instanceof Transport\Smtp\SmtpTransport
                && $transport->getStream() instanceof Transport\Smtp\Stream\SocketStream) {
                $transport->getStream()->setTimeout((float) config('harbor.patience'));
            }
            $transport->send($mail);

            return null;
        } catch (TransportExceptionInterface|\InvalidArgumentException|\LogicException|\RuntimeException $e) {
            // A password in the address of the server stands in no log and on no page.
            return mb_strimwidth((string) preg_replace('~//[^@/]+@~', '//…@', $e->getMessage()), 0, 240, '…');
        }
    }
}
