package main

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"errors"
	"fmt"
	"math/big"
	"net"
	"os"
	"time"
)

// validFor is how long a certificate made here lasts; it is made anew when less than a week of it is left.
const (
	validFor  = 365 * 24 * time.Hour
	renewFrom = 7 * 24 * time.Hour
)

// keyPair gives the certificate that was named, or the one made here, which is kept beside the database so that
// browsers know it again. Own says that it is the latter.
func (s *service) keyPair(database string, hosts []string) (pair tls.Certificate, own bool, err error) {
	if s.certificate != "" {
		if pair, err = tls.LoadX509KeyPair(s.certificate, s.key); err != nil {
			return pair, false, &exit{exitBadArgs, fmt.Sprintf("--certificate %s: %v", s.certificate, err)}
		}
		return pair, false, nil
	}
	certificate, key := database+".cert.pem", database+".key.pem"
	if pair, err = tls.LoadX509KeyPair(certificate, key); err == nil && stillGood(pair, hosts, time.Now()) {
		return pair, true, nil
	}
	if err != nil && !errors.Is(err, os.ErrNotExist) {
		return pair, true, fmt.Errorf("%s: %w; remove it and %s, and they are made anew", certificate, err, key)
	}
	certificatePEM, keyPEM, err := newKeyPair(hosts, time.Now())
	if err != nil {
		return pair, true, err
	}
	if err := errors.Join(writePrivate(key, keyPEM), writePrivate(certificate, certificatePEM)); err != nil {
		return pair, true, err
	}
	pair, err = tls.X509KeyPair(certificatePEM, keyPEM)
	return pair, true, err
}

// stillGood reports whether a certificate lasts long enough and is for all the names.
func stillGood(pair tls.Certificate, hosts []string, now time.Time) bool {
	leaf, err := x509.ParseCertificate(pair.Certificate[0])
	if err != nil || now.Add(renewFrom).After(leaf.NotAfter) {
		return false
	}
	for _, h := range hosts {
		if leaf.VerifyHostname(h) != nil {
			return false
		}
	}
	return true
}

// newKeyPair makes a key (ECDSA P-256) and a certificate signed by itself (RFC 5280) for this machine under its
// names.
func newKeyPair(hosts []string, now time.Time) (certificatePEM, keyPEM []byte, err error) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, nil, err
	}
	serial, err := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 127))
	if err != nil {
		return nil, nil, err
	}
	template := &x509.Certificate{
		SerialNumber:          serial,
		Subject:               pkix.Name{CommonName: "Tornister on this machine"},
		NotBefore:             now.Add(-time.Hour),
		NotAfter:              now.Add(validFor),
		KeyUsage:              x509.KeyUsageDigitalSignature,
		ExtKeyUsage:           []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth},
		BasicConstraintsValid: true,
		DNSNames:              []string{"localhost"},
		IPAddresses:           []net.IP{net.IPv4(127, 0, 0, 1), net.IPv6loopback},
	}
	for _, h := range hosts {
		if ip := net.ParseIP(h); ip != nil {
			template.IPAddresses = append(template.IPAddresses, ip)
		} else {
			template.DNSNames = append(template.DNSNames, h)
		}
	}
	der, err := x509.CreateCertificate(rand.Reader, template, template, &key.PublicKey, key)
	if err != nil {
		return nil, nil, err
	}
	plain, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return nil, nil, err
	}
	return pem.EncodeToMemory(
			&pem.Block{Type: "CERTIFICATE", Bytes: der},
		), pem.EncodeToMemory(
			&pem.Block{Type: "PRIVATE KEY", Bytes: plain},
		), nil
}

// fingerprint is the SHA-256 of a certificate, as browsers show it.
func fingerprint(pair tls.Certificate) string {
	return fmt.Sprintf("% X", sha256.Sum256(pair.Certificate[0]))
}
