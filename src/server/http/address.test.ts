import { networkOf } from './address';

test.each([
  ['203.0.113.7', '203.0.113.7'],
  ['::ffff:203.0.113.7', '203.0.113.7'],
  // Two addresses of one network (RFC 4291, 2.5.4: the last 64 bits are the interface's).
  ['2001:db8:1:2:3:4:5:6', '2001:db8:1:2::/64'],
  ['2001:0DB8:0001:2::1', '2001:db8:1:2::/64'],
  ['2001:db8::1', '2001:db8:0:0::/64'],
  ['fe80::1%eth0', 'fe80:0:0:0::/64'],
  ['::1', '0:0:0:0::/64'],
  ['unknown', 'unknown'],
])('%s is of %s', (address, network) => {
  expect(networkOf(address)).toBe(network);
});
