# Built by “./finch package rpm” from the folder that runs anywhere: its own Python and libraries, so that one package
# serves every release with that C library. Nothing is compiled here and no script is run.
%global __os_install_post %{nil}
%global debug_package %{nil}
%global _build_id_links none

Name:           mellow-finch
Version:        @VERSION@
Release:        1
Summary:        One palette for the whole desktop, readable everywhere
License:        GPL-3.0-or-later
URL:            https://mellowfinch.example/
ExclusiveArch:  x86_64
AutoReqProv:    no
Requires:       glibc >= @GLIBC@
Recommends:     python3-gobject
Recommends:     xorg-x11-server-Xvfb

%description
Takes a palette from a picture, several, or a scheme, and dresses toolkits, window borders, shells, panels, terminals,
editors and widgets in it, so that every component matches and every text can be read. What was there before is kept,
and going back gives every file its exact old bytes.

%install
mkdir -p %{buildroot}/opt %{buildroot}/usr/bin %{buildroot}/usr/share
cp -a @FOLDER@ %{buildroot}/opt/mellow-finch
cp -a %{buildroot}/opt/mellow-finch/share/. %{buildroot}/usr/share/
rm -r %{buildroot}/opt/mellow-finch/share
ln -s /opt/mellow-finch/mellow-finch %{buildroot}/usr/bin/mellow-finch

%files
/opt/mellow-finch
/usr/bin/mellow-finch
@SHARED@
